-- Lists of requests under way, by process, newest first; those that are stuck; open tasks by their limit.
create index request_process_open on request (process_key, started_at desc, id desc) where ended_at is null;

create index request_process_stuck on request (process_key, started_at desc, id desc) where status = 'stuck';

create index task_late on task (due_at) where ended_at is null;
