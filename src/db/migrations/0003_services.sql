-- A service is an account another program acts as. It makes requests and reads, but nobody can be asked to answer
-- as it: it stands outside the directory of people, holds no password and needs no address.
alter table person add column kind text not null default 'person' check (kind in ('person', 'service'));
alter table person alter column email drop not null;
alter table person add constraint person_reachable check (kind = 'service' or email is not null);
alter table person add constraint service_signs_in_by_key check (kind = 'person' or (password_hash is null and not office_rights and manager_id is null));
