-- Dates that come near by the hour are moments: "2026-03-03T10:00", beside days: "2026-03-03".
alter table start_mark alter column looked type text using looked::text;
alter table record_start alter column for_date type text using for_date::text;
