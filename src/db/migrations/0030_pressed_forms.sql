-- A form that was begun on the page of a record knows what was pressed there: the id of the start, and of the record.
alter table form_draft add column pressed jsonb;
