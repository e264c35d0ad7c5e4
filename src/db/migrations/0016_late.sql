-- How long a request may still wait stands on itself: the earliest limit of its open tasks, so that those past it are
-- counted and listed by an index, process by process.
alter table request add column due_at timestamptz;

update request r
set due_at = t.due_at
from (select request_id, min(due_at) as due_at from task where ended_at is null group by request_id) t
where t.request_id = r.id and t.due_at is not null and r.ended_at is null;

create index request_late on request (process_key, due_at, id) where ended_at is null and due_at is not null;
drop index task_late;
