-- People who were mentioned in a note on a request whose process lets them look at it; by whom, and since when.
create table request_mention (
  request_id bigint not null references request (id) on delete cascade,
  person_id text not null references person (id) on delete cascade,
  by_person text references person (id) on delete set null,
  at timestamptz not null,
  primary key (request_id, person_id)
);
create index request_mention_person on request_mention (person_id);
