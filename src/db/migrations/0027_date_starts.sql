-- A date of a record that has come near starts a request like what becomes of one.
alter table record_start drop constraint record_start_did_check;
alter table record_start add constraint record_start_did_check
  check (did in ('added', 'changed', 'removed', 'near'));
-- The date that came near, and whether the same may start one again.
alter table record_start add column for_date date;
alter table record_start add column again boolean not null default false;
create unique index record_start_once on record_start (process_key, start_id, record_id, for_date)
where for_date is not null and not again;

-- The last day whose dates were looked at, by start.
create table start_mark (
  process_key text not null references process (key) on delete cascade,
  start_id text not null,
  looked date not null,
  primary key (process_key, start_id)
);
