-- What was sent with a start's idempotency key: the same key with something else is no second try.
alter table request add column start_hash bytea;
