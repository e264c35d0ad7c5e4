-- The record that was made of one that was removed, so that it is put back once.
alter table register_history add column put_back bigint;

create index register_history_removed on register_history (register_key, id desc)
where did = 'removed' and put_back is null;
