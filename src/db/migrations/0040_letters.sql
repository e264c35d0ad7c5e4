-- The parts of a letter as it was sent, with the language it is written in: {language, parts}. The body is made of them.
alter table message add column letter jsonb;

-- What is searched for in conversations.
create index message_words on message using gin ((subject || ' ' || body) gin_trgm_ops) where request_id is not null;
