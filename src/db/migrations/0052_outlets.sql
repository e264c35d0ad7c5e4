-- Where documents are brought: a file shelf and a print room, one of each or none. What they are entered with is sealed.
create table outlet (
  kind text primary key check (kind in ('shelf', 'print room')),
  address text not null,
  -- Null where they are entered with a token alone.
  account text,
  secret bytea not null
);
create trigger bump after insert or update or delete on outlet for each statement execute function bump_directory('mailboxes');
