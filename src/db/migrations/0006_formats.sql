-- Versions of what is stored: an event is brought up to date when it is read.
alter table request_event add column format smallint not null default 1;
-- What is added from here on says so itself.
alter table request_event alter column format drop default;
