-- How whoever changed a record acted: by which session or key.
alter table register_history add column via text;

-- Who may add, change and remove records; nobody but those who look after a register where nothing is said.
update register set rights = '{"add": [], "change": [], "remove": [], "fill": {}}'::jsonb || rights;
alter table register alter column rights
  set default '{"keepers": [], "see": [], "columns": {}, "withdrawn": [], "add": [], "change": [], "remove": [], "fill": {}}';

-- What somebody is filling in of a record, as "objects/12" or "objects/new", with what it was typed over.
alter table form_draft add column record_of text;
create unique index form_draft_record on form_draft (person_id, record_of) where record_of is not null;
