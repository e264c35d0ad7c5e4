-- What documents of requests were made of, so that one that was shown can be made again with a signature in its place.
create table document_source (
  file_id text primary key references file on delete cascade,
  request_id bigint not null references request on delete cascade,
  -- The step that drew it up, in its round and procedure; null of a signed one.
  place text,
  -- How often it had been drawn up there by then.
  version integer not null,
  made jsonb not null
);
create index document_source_of on document_source (request_id, place);
