-- Records by which requests that sleep are told that what they wait for has come.
create table request_watch (
  request_id bigint not null references request (id) on delete cascade,
  sleep_id text not null,
  register_key text not null,
  record_id text not null,
  primary key (request_id, sleep_id, register_key, record_id)
);
create index request_watch_record on request_watch (register_key, record_id);

-- A record changed: the requests that wait for it look again. At the end of the transaction that changed it, so that
-- what began to wait meanwhile is found; those that began a moment later look by themselves.
create function look_again () returns trigger language plpgsql as $$
begin
  perform graphile_worker.add_job (
    'look',
    json_build_object('request', w.request_id::text),
    job_key := 'look ' || w.request_id,
    max_attempts := 25
  )
  from (
    select distinct request_id
    from request_watch
    where register_key = new.register_key and record_id = new.record_id::text
  ) w;
  return null;
end
$$;
create constraint trigger register_history_look
after insert on register_history deferrable initially deferred for each row
execute function look_again ();
