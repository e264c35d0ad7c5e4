-- Caches in web and worker processes are dropped when these numbers move; reading them costs one row.
insert into setting (key, value) values ('clock_offset', '0'), ('directory_version', '1');

create function bump_directory() returns trigger language plpgsql as $$
begin
  update setting set value = to_jsonb((value #>> '{}')::bigint + 1) where key = 'directory_version';
  return null;
end $$;

create trigger bump after insert or update or delete on person for each statement execute function bump_directory();
create trigger bump after insert or update or delete on absence for each statement execute function bump_directory();
create trigger bump after insert or update or delete on person_group for each statement execute function bump_directory();
create trigger bump after insert or update or delete on group_member for each statement execute function bump_directory();
create trigger bump after insert or update or delete on working_calendar for each statement execute function bump_directory();
create trigger bump after insert or update or delete on register for each statement execute function bump_directory();
