-- The directory is kept in parts, each with a version of its own: a duty given to somebody does not make everybody's names
-- be read again. A version names the transaction that made it, so that one taken back is never taken for another.
create function bumped(versions jsonb, part text) returns jsonb language sql as $$
  select jsonb_set(
    case when jsonb_typeof(versions) = 'object' then versions else '{}'::jsonb end,
    array[part],
    to_jsonb(
      pg_current_xact_id()::text || ':' ||
      (coalesce(nullif(split_part(case when jsonb_typeof(versions) = 'object' then versions ->> part end, ':', 2), ''), '0')::bigint + 1)
    )
  )
$$;

update setting set value = '{}' where key = 'directory_version';

create or replace function bump_directory() returns trigger language plpgsql as $$
begin
  update setting set value = bumped(value, tg_argv[0]) where key = 'directory_version';
  return null;
end $$;

drop trigger bump on person;
drop trigger bump on absence;
drop trigger bump on person_group;
drop trigger bump on group_member;
drop trigger bump on working_calendar;
drop trigger bump on register;

create trigger bump after insert or update or delete on person for each statement execute function bump_directory('people');
create trigger bump after insert or update or delete on absence for each statement execute function bump_directory('absences');
create trigger bump after insert or update or delete on person_group for each statement execute function bump_directory('groups');
create trigger bump after insert or update or delete on group_member for each statement execute function bump_directory('groups');
create trigger bump after insert or update or delete on working_calendar for each statement execute function bump_directory('calendars');
create trigger bump after insert or update or delete on register for each statement execute function bump_directory('registers');

-- Requests are looked for by a part of their number or title.
create extension if not exists pg_trgm;
create index request_words on request using gin (number gin_trgm_ops, title gin_trgm_ops);
