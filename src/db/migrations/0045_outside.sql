-- People outside who send public forms: each request has an account of its own, which nobody signs in with and of which
-- nothing is known. What is theirs by it is theirs by being whose own the request is, as for everybody else.
alter table person drop constraint person_kind_check;
alter table person add constraint person_kind_check check (kind in ('person', 'service', 'visitor'));
alter table person drop constraint person_reachable;
alter table person add constraint person_reachable check (kind <> 'person' or email is not null);
alter table person add column since timestamptz not null default now();
create index person_visitor on person (since) where kind = 'visitor';

-- The directory does not know them, so it is the same with and without them.
drop trigger bump on person;
create function bump_people() returns trigger language plpgsql as $$
begin
  if exists (select from touched where kind <> 'visitor') then
    update setting set value = bumped(value, 'people') where key = 'directory_version';
  end if;
  return null;
end $$;
create trigger bump_added after insert on person referencing new table as touched for each statement execute function bump_people();
create trigger bump_changed after update on person referencing new table as touched for each statement execute function bump_people();
create trigger bump_removed after delete on person referencing old table as touched for each statement execute function bump_people();

-- A link by which somebody outside follows a request; only what is made of it is kept, and it can be called back.
create table tracking_link (
  hash bytea primary key,
  request_id bigint not null references request on delete cascade,
  made_at timestamptz not null,
  revoked_at timestamptz
);
create index tracking_link_request on tracking_link (request_id);

-- A code sent to an address, which whoever fills in a public form says to show that it is theirs.
create table address_code (
  account text not null references person on delete cascade,
  address text not null,
  code_hash bytea not null,
  made_at timestamptz not null,
  tries int not null default 0,
  primary key (account)
);
create index address_code_address on address_code (address, made_at);

-- What came from which address, so that no machine sends without end: an address as a hash, for as long as it counts.
create table outside_pace (
  id bigint generated always as identity primary key,
  bucket text not null,
  amount bigint not null default 1,
  at timestamptz not null default now()
);
create index outside_pace_bucket on outside_pace (bucket, at);
