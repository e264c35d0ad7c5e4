-- A large request is kept in parts, so that a command reads and writes what it is about: a part for each round under
-- way, and parts of tasks that are over. The rest of the state stands in the request, as that of a small one does.
alter table request add column in_parts boolean not null default false;

create table request_part (
  request_id bigint not null references request (id) on delete cascade,
  id text not null,
  -- The part of the round around it; null for the request itself.
  parent text,
  -- Its tokens, tasks, timers and effects: by these it is found.
  holds text[] not null,
  -- The earliest limit of a task in it.
  due_at timestamptz,
  -- Some of very many tasks of one visit: read whenever what is around it is.
  beside boolean not null,
  -- Nobody answers what is in it any more.
  past boolean not null,
  body json not null,
  primary key (request_id, id)
);
create index request_part_due on request_part (request_id, due_at) where due_at is not null;
create index request_part_live on request_part (request_id) where not past;
create index request_part_beside on request_part (request_id) where beside;

do $$
begin
  alter table request_part alter column body set compression lz4;
exception
  when others then
    raise notice 'parts keep the usual compression: %', sqlerrm;
end
$$;
