-- Somebody outside who is asked at a step has an account in that request as whoever made it by a public form has; it stays for
-- as long as the request does, whether or not anything waits for them.
alter table person add column asked boolean not null default false;
drop index person_visitor;
create index person_visitor on person (since) where kind = 'visitor' and not asked;
