-- The chat room that messages go to, and that says what was pressed there: one, or none. Both secrets are sealed.
create table chat_room (
  one boolean primary key default true check (one),
  name text not null,
  address text not null,
  token bytea not null,
  -- What it signs with when it says that something was pressed.
  signing_key bytea not null
);
create trigger bump after insert or update or delete on chat_room for each statement execute function bump_directory('mailboxes');

-- By which account somebody is known there, once they have shown that it is theirs.
create table chat_account (
  person_id text primary key references person,
  account text not null unique,
  tied_at timestamptz not null
);
-- Codes that were sent to an account, to be said here by who reads it; only what is made of them is kept.
create table chat_code (
  person_id text primary key references person,
  account text not null,
  hash bytea not null,
  tries int not null default 0,
  -- How many were asked for, none a day after the one before: whoever guesses is slowed down.
  asked int not null default 1,
  made_at timestamptz not null
);

-- Messages are kept with the mails of their request.
alter table message add column channel text not null default 'mail' check (channel in ('mail', 'chat'));
-- Of a message in a room: which. Others go to one person.
alter table message add column room text;
-- What it shows: "asks", or the words that say why nobody is asked any more.
alter table message add column shows text;
create index message_in_chat on message (request_id, task_id) where channel = 'chat' and task_id is not null;
create index message_by_chat_id on message (message_id) where channel = 'chat';
