-- Files of the word processor from which documents are drawn up, by what is in them: drafts and releases name the one they
-- mean, and keep it as it is.
create table template_file (
  sha256 bytea primary key,
  bytes bytea not null,
  size integer not null
);
alter table template_file alter column bytes set storage external;

-- Which were brought into which process, as which template: its versions.
create table template_upload (
  id bigint generated always as identity primary key,
  process_key text not null references process on delete cascade,
  document text not null,
  sha256 bytea not null references template_file,
  name text not null,
  tags jsonb not null,
  by_person text references person on delete set null,
  at timestamptz not null
);
create index template_upload_of on template_upload (process_key, document, id);
create index template_upload_file on template_upload (sha256);
