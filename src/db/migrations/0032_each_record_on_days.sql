-- A day of a timetable may start a request for each record found then.
alter table record_start drop constraint record_start_did_check;
alter table record_start add constraint record_start_did_check
  check (did in ('added', 'changed', 'removed', 'near', 'day'));
