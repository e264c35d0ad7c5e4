-- Who answers for somebody in a duty of theirs while they are away, where that is another than who answers otherwise; and
-- whether what is open when it begins stays with them.
alter table absence add column covers jsonb not null default '[]';
alter table absence add column stays boolean not null default false;
-- What is with whoever covers for somebody, to be taken back.
create index task_candidate_for on task_candidate (for_person, request_id) where open and for_person is not null;
