-- Whether whoever has a task may answer it together with others of its step, from their desk.
alter table task add column at_once boolean not null default false;
