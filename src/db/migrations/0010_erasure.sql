-- When the personal values of a request were blanked: it is not looked at again.
alter table request add column blanked_at timestamptz;
create index request_to_blank on request (process_key, ended_at) where ended_at is not null and blanked_at is null;
