-- Ladders kept for all processes, as letters are: a process takes one as it is then.
create table kept_ladder (
  id text primary key,
  name text not null,
  version int not null,
  ladder jsonb not null,
  -- The process it was kept from; null where that is gone.
  process_key text references process (key) on delete set null,
  by_person text references person,
  at timestamptz not null
);
