-- People, sign-in, definitions, requests. All times are application time (the clock may be moved in a demo).
create schema register;

create table setting (key text primary key, value jsonb not null);

create table person (
  id text primary key check (id ~ '^[a-z0-9][a-z0-9.-]{0,59}$'),
  name text not null,
  email text not null unique,
  password_hash text,
  job_title text not null default '',
  department text not null default '',
  site text not null default '',
  manager_id text references person (id),
  calendar_key text,
  zone text not null default 'Europe/Dublin',
  office_rights boolean not null default false,
  active boolean not null default true,
  shows text not null default ''
);
create table absence (
  id bigint generated always as identity primary key,
  person_id text not null references person (id) on delete cascade,
  starts timestamptz not null,
  ends timestamptz not null check (ends > starts),
  cover_id text references person (id)
);
create index absence_person on absence (person_id, ends);
create table person_group (key text primary key, name text not null);
create table group_member (
  group_key text not null references person_group (key) on delete cascade,
  person_id text not null references person (id) on delete cascade,
  primary key (group_key, person_id)
);
create table working_calendar (key text primary key, definition jsonb not null);

create table session (
  token_hash bytea primary key,
  person_id text not null references person (id) on delete cascade,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null
);
create index session_person on session (person_id);
create table sign_in_attempt (
  id bigint generated always as identity primary key,
  bucket text not null,
  at timestamptz not null default now()
);
create index sign_in_attempt_bucket on sign_in_attempt (bucket, at);
create table api_key (
  id bigint generated always as identity primary key,
  token_hash bytea not null unique,
  person_id text not null references person (id) on delete cascade,
  label text not null,
  created_by text not null references person (id),
  created_at timestamptz not null,
  last_used_at timestamptz,
  revoked_at timestamptz
);

create table register (key text primary key, definition jsonb not null);
create table register_history (
  id bigint generated always as identity primary key,
  register_key text not null references register (key),
  record_id bigint not null,
  at timestamptz not null,
  by_person text,
  request_number text,
  did text not null check (did in ('added', 'changed', 'removed')),
  before jsonb,
  after jsonb
);
create index register_history_record on register_history (register_key, record_id, id desc);

create table process (
  key text primary key,
  created_at timestamptz not null,
  live_release bigint
);
create table process_owner (
  process_key text not null references process (key) on delete cascade,
  person_id text not null references person (id),
  primary key (process_key, person_id)
);
create table process_draft (
  process_key text primary key references process (key) on delete cascade,
  definition jsonb not null,
  version integer not null,
  changed_at timestamptz not null,
  changed_by text
);
-- Every edit with its inverse: what was done to a draft, by whom, and how to take it back.
create table process_edit (
  process_key text not null references process (key) on delete cascade,
  version integer not null,
  edit jsonb not null,
  inverse jsonb not null,
  at timestamptz not null,
  by_person text,
  primary key (process_key, version)
);
create table process_release (
  id bigint generated always as identity primary key,
  process_key text not null references process (key) on delete cascade,
  version text not null,
  note text not null default '',
  definition jsonb not null,
  state text not null check (state in ('released', 'live', 'retired')),
  released_at timestamptz not null,
  released_by text,
  unique (process_key, version)
);
alter table process add foreign key (live_release) references process_release (id);
create table process_counter (prefix text primary key, last bigint not null);

create table request (
  id bigint generated always as identity primary key,
  number text not null unique,
  process_key text not null references process (key),
  release_id bigint not null references process_release (id),
  requester_id text not null references person (id),
  title text not null,
  status text not null,
  result text,
  result_tone text,
  state jsonb not null,
  version integer not null,
  started_at timestamptz not null,
  ended_at timestamptz,
  start_key text unique
);
create index request_requester on request (requester_id, started_at desc, id desc);
create index request_process on request (process_key, started_at desc, id desc);
create index request_open on request (started_at desc, id desc) where ended_at is null;

create table request_event (
  request_id bigint not null references request (id) on delete cascade,
  seq integer not null,
  type text not null,
  at timestamptz not null,
  by_person text,
  body jsonb not null,
  primary key (request_id, seq)
);

create table task (
  request_id bigint not null references request (id) on delete cascade,
  id text not null,
  step_id text not null,
  step_name text not null,
  purpose text not null,
  holder_id text references person (id),
  status text not null,
  opened_at timestamptz not null,
  due_at timestamptz,
  ended_at timestamptz,
  answer text,
  primary key (request_id, id)
);
-- One row per person who may answer an open task; kept only while it is open, so the desk reads few rows.
create table task_candidate (
  request_id bigint not null,
  task_id text not null,
  person_id text not null references person (id),
  for_person text,
  due_at timestamptz,
  opened_at timestamptz not null,
  open boolean not null,
  primary key (request_id, task_id, person_id),
  foreign key (request_id, task_id) references task (request_id, id) on delete cascade
);
create index task_candidate_desk on task_candidate (person_id, due_at, opened_at, request_id) where open;

create table timer (
  request_id bigint not null references request (id) on delete cascade,
  id text not null,
  due_at timestamptz not null,
  primary key (request_id, id)
);
create index timer_due on timer (due_at);

create table notice (
  id bigint generated always as identity primary key,
  person_id text not null references person (id) on delete cascade,
  request_id bigint references request (id) on delete cascade,
  effect_key text not null,
  subject text not null,
  body text not null,
  created_at timestamptz not null,
  read_at timestamptz,
  unique (person_id, effect_key)
);
create index notice_person on notice (person_id, id desc);

create table form_draft (
  id text primary key,
  person_id text not null references person (id) on delete cascade,
  -- A new request of a process, or an answer being prepared for a task.
  process_key text references process (key) on delete cascade,
  request_id bigint references request (id) on delete cascade,
  task_id text,
  data jsonb not null,
  changed_at timestamptz not null
);
create index form_draft_person on form_draft (person_id, changed_at desc);
create unique index form_draft_task on form_draft (person_id, request_id, task_id) where task_id is not null;
