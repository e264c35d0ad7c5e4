-- A sheet that is brought into a register: read, matched and tried by a worker, written when somebody says so.
create table sheet_import (
  id bigint generated always as identity primary key,
  -- Null until a register is made of the sheet.
  register_key text references register (key) on delete cascade,
  person_id text not null references person (id),
  -- How they acted.
  via text,
  name text not null,
  -- The file as it came; gone once it is read.
  content bytea,
  status text not null check (status in ('reading', 'naming', 'trying', 'tried', 'writing', 'done', 'stopped', 'failed')),
  -- Counts what was asked of it, so that what an earlier asking still works at is not taken for the present one.
  asking int not null default 1,
  headings jsonb not null default '[]',
  -- What was noticed while reading, in words.
  notes jsonb not null default '[]',
  plan jsonb,
  -- How many rows come to what; and how many requests of which process start.
  counts jsonb not null default '{}',
  starts jsonb not null default '{}',
  done int not null default 0,
  total int not null default 0,
  why text,
  at timestamptz not null,
  ended_at timestamptz
);
create index sheet_import_of on sheet_import (register_key, person_id, id desc);

create table sheet_row (
  import_id bigint not null references sheet_import (id) on delete cascade,
  line int not null,
  cells jsonb not null,
  outcome text check (outcome in ('added', 'changed', 'same', 'left', 'refused')),
  -- What is written, for the writing.
  write jsonb,
  title text,
  -- By column, what was there and what will be.
  what jsonb,
  why text,
  primary key (import_id, line)
);
create index sheet_row_outcome on sheet_row (import_id, outcome, line);
