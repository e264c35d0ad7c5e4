-- Requests that steps of other requests have started, by the effect that asked: its id is the start key. Nothing here
-- refers to the row of the one that asked: that would lock it while the other is made, and two are never locked at once.
create table request_child (
  parent_id bigint not null,
  effect text not null,
  child_id bigint not null unique references request (id) on delete cascade,
  -- Whether its end is waited for, and whether it is cancelled where nobody needs it any more.
  waits boolean not null,
  ends_with boolean not null,
  -- The first of the line, and how many stand between.
  root_id bigint not null,
  depth int not null,
  primary key (parent_id, effect)
);
create index request_child_root on request_child (root_id);

-- One that is waited for has ended: who started it is told by a job.
create function tell_who_started () returns trigger language plpgsql as $$
begin
  perform graphile_worker.add_job (
    'request_ended',
    json_build_object('request', new.id::text),
    max_attempts := 25
  )
  from request_child c
  where c.child_id = new.id and c.waits;
  return null;
end
$$;
create trigger request_ended
after update of ended_at on request for each row
when (new.ended_at is not null and old.ended_at is null)
execute function tell_who_started ();
