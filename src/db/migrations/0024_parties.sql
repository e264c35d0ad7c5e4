-- A request may be asked for by somebody outside, or by a process: by no account, or by way of one. Who that is stands
-- in `party` then, and is null where the account itself asks.
alter table request alter requester_id drop not null;
alter table request add party jsonb;
alter table request add check (requester_id is not null or party is not null);
-- What a process asked by itself is somebody's where they led to it.
create index request_behind on request ((party #>> '{behind,id}')) where party is not null;
