-- A change of a register's shape that reads more records anew than one transaction may hold: they are gone through beside
-- everybody's work, into columns that nobody reads yet, which take their places at the end.
create table register_reshape (
  id bigint generated always as identity primary key,
  register_key text not null references register (key) on delete cascade,
  -- The register as it is, and as it is to be.
  before jsonb not null,
  after jsonb not null,
  -- Columns whose values may be left out where nothing can be made of them.
  lets text[] not null default '{}',
  person_id text not null,
  state text not null check (state in ('working', 'asks', 'done', 'refused', 'stopped')),
  -- The last record that was gone through, and the last change of any record when it began.
  last_id bigint not null default 0,
  mark bigint not null,
  done integer not null default 0,
  total integer not null,
  -- How texts are read that can be read in more than one way, by column.
  reading jsonb not null default '{}',
  -- What nothing can be made of, where that is asked.
  loses jsonb not null default '[]',
  why text,
  at timestamptz not null
);

create unique index register_reshape_one on register_reshape (register_key) where state in ('working', 'asks');
