-- The parts of a letter as it was sent, with the language it is written in: {language, parts}. The body is made of them.
alter table message add column letter jsonb;
