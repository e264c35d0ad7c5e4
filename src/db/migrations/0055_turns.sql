-- Whose turn it was last to be given a step. Of the process or procedure by its key, whatever release it was on; by a
-- number that grows and not by the time, since whoever waits for the lock may have begun before the one it waits for.
-- Read and written under one lock, so that two requests do not both find that it is the same person's turn.
create sequence turn_number;
create table turn_given (
  process_key text not null references process (key) on delete cascade,
  step_id text not null,
  person_id text not null references person (id) on delete cascade,
  number bigint not null,
  primary key (process_key, step_id, person_id)
);
