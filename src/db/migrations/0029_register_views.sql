-- Views of a register that are kept under a name: what stands in the address of its list.
create table register_view (
  id bigint generated always as identity primary key,
  register_key text not null references register (key) on delete cascade,
  -- Whose it is; null for everybody who sees the register.
  person_id text references person (id) on delete cascade,
  name text not null,
  view text not null,
  at timestamptz not null
);
create unique index register_view_name on register_view (register_key, coalesce(person_id, ''), lower(name));
