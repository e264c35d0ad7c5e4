-- Reminders of one minute are one notice to whoever gets them: which minute it was, in minutes since 1970; null for
-- notices that are no reminders.
alter table notice
add column reminds_at bigint;

create index notice_reminds on notice (person_id, reminds_at, id)
where reminds_at is not null;
