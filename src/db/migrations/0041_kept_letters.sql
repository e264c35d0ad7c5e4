-- Letters kept for all processes. Each process takes them as they are then; nothing that is live changes by itself.
create table kept_letter (
  id text primary key,
  name text not null,
  version int not null,
  -- A letter of a process's definition, without what is that process's alone.
  letter jsonb not null,
  -- The process it was written in; null where that is gone.
  process_key text references process (key) on delete set null,
  by_person text references person,
  at timestamptz not null
);
