-- Letters that refuse a mail which started nothing.
create index message_refusal on message (effect) where request_id is null and direction = 'out';
