-- A file that a record keeps: whoever sees that record's column opens it.
alter table file
  add column register_key text,
  add column record_id bigint,
  add constraint file_kept_once check (request_id is null or register_key is null),
  add constraint file_of_record check ((register_key is null) = (record_id is null));

create index file_record on file (register_key, record_id) where register_key is not null;

drop index file_loose;
create index file_loose on file (added_at) where request_id is null and register_key is null;
