-- How whoever changed a record acted: by which session or key.
alter table register_history add column via text;

-- Who may add, change and remove records; nobody but those who look after a register where nothing is said.
update register set rights = '{"add": [], "change": [], "remove": []}'::jsonb || rights;
alter table register alter column rights
  set default '{"keepers": [], "see": [], "columns": {}, "withdrawn": [], "add": [], "change": [], "remove": []}';
