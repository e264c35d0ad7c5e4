-- The state of a request is read and written whole and never looked into here: as plain text it is kept as it comes, and
-- compressed by what is quicker, where this server has it. Of a large request both took most of a decision's time.
alter table request alter column state type json using state::json;

do $$
begin
  alter table request alter column state set compression lz4;
exception
  when others then
    raise notice 'state keeps the usual compression: %', sqlerrm;
end
$$;
