-- Mailboxes that processes write from and that are read. The password is sealed by the application's own key.
create table mailbox (
  address text primary key,
  name text not null,
  smtp_host text not null,
  smtp_port int not null,
  -- Null: nothing is read from it.
  imap_host text,
  imap_port int,
  security text not null check (security in ('none', 'starttls', 'tls')),
  user_name text not null,
  password bytea not null,
  -- What the receiving server calls itself where it says what it found out about senders (RFC 8601); empty for nothing.
  checks_by text not null default ''
);
create trigger bump after insert or update or delete on mailbox for each statement execute function bump_directory('mailboxes');

-- How far a mailbox has been read. Apart from the mailbox, because it changes with every mail.
create table mailbox_read (
  address text primary key references mailbox on delete cascade on update cascade,
  -- Of the IMAP server: numbers of mails count only as long as it stays (RFC 9051 §2.3.1.1).
  uid_validity bigint not null,
  last_uid bigint not null,
  looked_at timestamptz,
  -- Why it could not be read when that was last tried; null where it could.
  trouble text
);

-- Every mail of a request, out and in; and mails that came and belong to none.
create table message (
  id bigint generated always as identity primary key,
  request_id bigint references request on delete cascade,
  direction text not null check (direction in ('out', 'in')),
  mailbox text not null,
  -- Out: the effect that asked for it, and which of its mails it is.
  effect text,
  part int,
  step_id text,
  scope text,
  -- Who wrote it by hand; null where a step did.
  by_person text references person,
  -- The task it asks somebody to answer, who that is, and the last event it was written after.
  task_id text,
  person_id text references person,
  seq int,
  -- Out: waiting, sending (taken by a worker), given (its text is on its way), sent, perhaps (it cannot be known), returned
  -- (it did not reach somebody), stuck. In: kept.
  state text not null check (state in ('waiting', 'sending', 'given', 'sent', 'perhaps', 'returned', 'stuck', 'kept')),
  again boolean not null default false,
  hidden boolean not null default false,
  tries int not null default 0,
  why text,
  -- People by id, others by name and address.
  sender jsonb,
  receivers jsonb not null default '[]',
  copies jsonb not null default '[]',
  blind jsonb not null default '[]',
  reply_to jsonb,
  -- Addresses it was sent to, as they were then; and of those the ones it did not reach.
  reached text[] not null default '{}',
  missed jsonb not null default '[]',
  subject text not null,
  body text not null,
  -- In: without what it repeats of what it answers, and without a signature.
  said text,
  files text[] not null default '{}',
  message_id text,
  in_reply_to text,
  -- In: what tells one mail from another, however often it is delivered.
  fingerprint text,
  -- In: an automatic reply, a report, a list.
  automatic text,
  at timestamptz not null,
  sent_at timestamptz
);
create unique index message_of_effect on message (request_id, effect, part) where direction = 'out';
create unique index message_once on message (mailbox, fingerprint) where direction = 'in';
create index message_of_request on message (request_id, id);
create index message_by_id on message (message_id) where message_id is not null;
create index message_not_out on message (state, id) where direction = 'out' and state in ('waiting', 'sending', 'given', 'perhaps', 'stuck');
create index message_of_none on message (id) where request_id is null;

-- What message ids are made with, so that nobody can guess one and answer in another's thread.
insert into setting (key, value)
values ('message_key', to_jsonb(replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '')));

-- What came with a mail is nobody's who could have added it. It goes with its mail, and with the request that has that.
alter table file alter column added_by drop not null;
alter table file add column message_id bigint references message on delete cascade;
create index file_of_message on file (message_id) where message_id is not null;

-- Links by which a task is answered after a press: only what is made of them is kept, and they end with the task.
create table answer_link (
  hash bytea primary key,
  message_id bigint not null references message on delete cascade,
  request_id bigint not null references request on delete cascade,
  task_id text not null,
  person_id text not null references person,
  made_at timestamptz not null,
  used_at timestamptz
);
create index answer_link_of_message on answer_link (message_id);
