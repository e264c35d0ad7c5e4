-- A few words somebody, or a request, has left on a record. Nothing here holds the record: what was said of one that went
-- stays with its history.
create table record_note (
  id bigint generated always as identity primary key,
  register_key text not null references register (key) on delete cascade,
  record_id bigint not null,
  by_person text references person (id),
  -- The request whose step left it, and the effect by which it is left once.
  request_number text,
  effect_key text unique,
  body text not null,
  -- People who were mentioned and told.
  mentioned text[] not null default '{}',
  at timestamptz not null,
  removed_at timestamptz
);
create index record_note_of on record_note (register_key, record_id, id desc);
create index record_note_by on record_note (by_person);
create index record_note_request on record_note (request_number);

-- What a notice is about where that is no request.
alter table notice
add column register_key text,
add column record_id bigint;
