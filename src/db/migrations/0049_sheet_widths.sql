-- How wide somebody drew the columns of the form sheet, in pixels by column; for all processes alike.
create table sheet_widths (
  person_id text primary key references person on delete cascade,
  widths jsonb not null
);
