-- What became of records that starts requests: written with the record, made into a request by a worker, once.
create table record_start (
  id bigint generated always as identity primary key,
  process_key text not null references process (key) on delete cascade,
  start_id text not null,
  register_key text not null,
  record_id bigint not null,
  did text not null check (did in ('added', 'changed', 'removed')),
  -- The record as it was and as it is since; emptied once there is a request.
  before jsonb,
  after jsonb,
  at timestamptz not null,
  -- Who led to it: somebody who wrote by hand, or who asked for the request that wrote.
  behind jsonb,
  -- The causes behind the request or hand that wrote it, oldest first.
  chain jsonb not null default '[]',
  due_at timestamptz not null,
  done_at timestamptz,
  request_id bigint references request (id),
  -- Why there is no request of it, in words.
  why text
);
create index record_start_open on record_start (register_key, record_id, process_key, id) where done_at is null;
create index record_start_due on record_start (due_at, id) where done_at is null;
create index record_start_of on record_start (process_key, start_id, id desc);

-- Starts that take nothing up just now; `keeps`: what comes meanwhile is caught up afterwards.
create table start_pause (
  process_key text not null references process (key) on delete cascade,
  start_id text not null,
  keeps boolean not null,
  since timestamptz not null,
  by_person text,
  primary key (process_key, start_id)
);
create trigger bump after insert or update or delete on start_pause for each statement execute function bump_directory('offered');

-- By what a request was started, oldest first: process and record of each start by a record before it.
alter table request add column chain jsonb not null default '[]';
