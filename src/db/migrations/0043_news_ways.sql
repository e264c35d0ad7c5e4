-- By which ways beside the screen somebody is told of a kind of news.
create table news_way (
  person_id text not null references person on delete cascade,
  kind text not null,
  way text not null check (way in ('mail', 'chat')),
  primary key (person_id, kind, way)
);
create trigger bump after insert or update or delete on news_way for each statement execute function bump_directory('mailboxes');

-- Hours in which that waits, by their own clock.
create table quiet_time (
  person_id text primary key references person on delete cascade,
  starts time not null,
  ends time not null
);

-- News that goes by such a way, and what came of it.
create table news_sent (
  notice_id bigint not null references notice on delete cascade,
  way text not null check (way in ('mail', 'chat')),
  -- waiting, given (its text is on its way), sent, left (nobody needed it any more, or it did not go).
  state text not null check (state in ('waiting', 'given', 'sent', 'left')),
  why text,
  tries int not null default 0,
  primary key (notice_id, way)
);

-- The mailbox from which news goes out: one, or none.
alter table mailbox add column news boolean not null default false;
create unique index mailbox_of_news on mailbox (news) where news;
