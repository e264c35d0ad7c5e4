-- Whether the receiving server vouched for who a mail says to be from; null where it said nothing.
alter table message add column vouched boolean;
-- Of a mail that belongs to no request: whether somebody has said that it needs none.
alter table message add column settled boolean not null default false;
create index message_unsettled on message (mailbox, id) where direction = 'in' and request_id is null and not settled;
