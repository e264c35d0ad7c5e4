-- What a task is about where it is one of several rounds: "Object 3 of 7: Rope makers".
alter table task add column about text not null default '';
