-- What columns were called as a release was checked, by register and column id: formulas are read by these names,
-- whatever the columns are called since. Until now nothing a release reads could be called otherwise.
alter table process_release add column names jsonb;

update process_release r set names = coalesce(
  (
    select jsonb_object_agg(
      g.key,
      (
        select coalesce(jsonb_object_agg(c ->> 'id', c ->> 'name'), '{}')
        from jsonb_array_elements(g.definition -> 'columns') c
      )
    )
    from register g
    where r.reads is null or r.reads ? g.key
  ),
  '{}'
);

alter table process_release alter column names set not null;
