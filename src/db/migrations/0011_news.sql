-- News that no process step tells: what kind, and what is known of it. What a Tell step says is of the kind "told".
alter table notice
add column kind text not null default 'told',
add column task_id text,
add column facts jsonb;

-- Kinds of news somebody does not want.
create table news_off (
  person_id text not null references person (id) on delete cascade,
  kind text not null,
  primary key (person_id, kind)
);

-- Erasure and whoever looks at one request look by it.
create index notice_request on notice (request_id);

create index notice_unread on notice (person_id) where read_at is null;
