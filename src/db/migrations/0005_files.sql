-- Files added to forms. The contents stand apart, so that reading what is known of a file stays cheap.
create table file (
  id text primary key,
  name text not null,
  media_type text not null,
  size integer not null,
  sha256 bytea not null,
  added_at timestamptz not null,
  added_by text not null references person (id),
  -- Empty until the form it was added to is sent; then the rights of that request count.
  request_id bigint references request (id) on delete cascade
);
create index file_request on file (request_id) where request_id is not null;
create index file_loose on file (added_at) where request_id is null;
create table file_content (
  file_id text primary key references file (id) on delete cascade,
  bytes bytea not null
);
-- Most kinds of files are packed already; trying to pack them again only costs time.
alter table file_content alter column bytes set storage external;
