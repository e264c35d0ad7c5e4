-- Sessions get an id that may be named in logs and lists (the token's digest may not), and say where they are from.
alter table session
  add column id bigint generated always as identity unique,
  add column seen_at timestamptz not null default now(),
  -- When their person last showed who they are.
  add column proved_at timestamptz not null default now(),
  add column how text not null default 'password',
  add column browser text not null default '',
  add column address text not null default '';

-- Tries to sign in are slowed down per account, browser and address. A try is given a place; the next one may come
-- when `free_at` is over.
drop table sign_in_attempt;
create table sign_in_pace (
  bucket text primary key,
  tries integer not null,
  at timestamptz not null,
  free_at timestamptz not null
);
-- Browsers in which a person has signed in before: what strangers try at their account does not slow these.
create table known_browser (
  token_hash bytea not null,
  person_id text not null references person (id) on delete cascade,
  at timestamptz not null default now(),
  primary key (token_hash, person_id)
);
-- A link by which somebody sets their password, once.
create table password_link (
  token_hash bytea primary key,
  person_id text not null unique references person (id) on delete cascade,
  made_at timestamptz not null default now(),
  expires_at timestamptz not null
);
-- Who somebody is at a provider of sign-ins (OpenID Connect: issuer and subject together never change).
create table person_identity (
  issuer text not null,
  subject text not null,
  person_id text not null references person (id) on delete cascade,
  primary key (issuer, subject),
  unique (issuer, person_id)
);

-- What matters for safety, kept for some days. It names people and keys by id and holds on to nothing, so that it
-- stands when they are gone.
create table office_log (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  what text not null,
  by_person text,
  via text,
  address text not null default '',
  data jsonb not null default '{}'
);
create index office_log_at on office_log (at);
create index office_log_person on office_log (by_person, id desc);

-- How somebody acted: by which session or key.
alter table request_event add column via text;
alter table process_edit add column via text;

-- Owners are the process's own affair, not a draft's: who they are changes by proposal and consent.
create table process_log (
  id bigint generated always as identity primary key,
  process_key text not null references process (key) on delete cascade,
  at timestamptz not null,
  what text not null,
  by_person text,
  via text,
  data jsonb not null default '{}'
);
create index process_log_process on process_log (process_key, id desc);
create table owner_proposal (
  process_key text primary key references process (key) on delete cascade,
  owners text[] not null,
  by_person text not null references person (id),
  note text not null default '',
  at timestamptz not null
);
