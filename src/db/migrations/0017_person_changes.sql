-- Who changes one person in ten thousand does not make everybody be read again: each row names the transaction that
-- wrote it last, and what was not seen yet is what no snapshot before could see.
alter table person add column changed xid8 not null default pg_current_xact_id();
create index person_changed on person (changed);

create function note_person_change() returns trigger language plpgsql as $$
begin
  new.changed := pg_current_xact_id();
  return new;
end $$;
create trigger changed before insert or update on person for each row execute function note_person_change();
