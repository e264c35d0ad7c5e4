-- Pictures made small enough to be shown beside others, once somebody looks at them; null for a file that holds no picture.
create table file_small (
  file_id text primary key references file (id) on delete cascade,
  bytes bytea
);
alter table file_small alter column bytes set storage external;
