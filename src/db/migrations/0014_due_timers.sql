-- Timers come into the queue when they are due, not before: pending ones made every look for something to do slow.
alter table timer add column queued boolean not null default false;

drop index timer_due;
create index timer_due on timer (due_at) where not queued;

-- What was queued ahead would do no harm; it only lies about.
do $$
begin
  if to_regclass('graphile_worker._private_jobs') is not null then
    execute 'delete from graphile_worker._private_jobs where key like ''timer:%'' and locked_at is null';
  end if;
exception when insufficient_privilege then null;
end $$;
