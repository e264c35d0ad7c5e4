-- What is in files, by its fingerprint: kept once, however many files have it. In parts, so that nobody needs the whole of it
-- in memory; or in a folder, where an installation says one.
create table content (
  sha256 bytea primary key,
  size bigint not null,
  place text not null check (place in ('database', 'folder'))
);
create table content_part (
  sha256 bytea not null references content on delete cascade,
  -- From 0; all but the last have a million bytes.
  nth integer not null,
  bytes bytea not null,
  primary key (sha256, nth)
);
-- Most kinds of files are packed already; trying to pack them again only costs time.
alter table content_part alter column bytes set storage external;

insert into content (sha256, size, place)
select distinct on (sha256) sha256, size, 'database'
from file;

insert into content_part (sha256, nth, bytes)
select x.sha256, n, substring(x.bytes from n * 1000000 + 1 for 1000000)
from
  (
    select distinct on (f.sha256) f.sha256, c.bytes
    from file f join file_content c on c.file_id = f.id
  ) x,
  generate_series(0, (octet_length(x.bytes) - 1) / 1000000) n;

drop table file_content;
alter table file add foreign key (sha256) references content;
-- Whether anything still has it is asked before it goes.
create index file_contents on file (sha256);
