-- Pictures that stand in texts of forms, by the hash of what they hold: whoever is given the text can fetch them by it, and
-- nobody can guess it. A draft, its releases and its copies name the same one.
create table picture (
  hash text primary key check (hash ~ '^[0-9a-f]{64}$'),
  bytes bytea not null,
  added_at timestamptz not null default now()
);
alter table picture alter column bytes set storage external;
