-- Templates kept for all processes. Each process takes them as they are then; nothing that is live changes by itself.
create table kept_template (
  id text primary key,
  name text not null,
  version int not null,
  sha256 bytea not null references template_file,
  file_name text not null,
  -- What its tags say, which may have been written anew since the file was made.
  tags jsonb not null,
  -- The process it was brought into; null where that is gone.
  process_key text references process (key) on delete set null,
  by_person text references person,
  at timestamptz not null
);
create index kept_template_file on kept_template (sha256);
