-- Who may see what of a register; nobody where nothing is said. What was there before was everybody's to see.
alter table register add column rights jsonb not null
  default '{"keepers": [], "see": [], "columns": {}, "withdrawn": []}';
update register set rights = '{"keepers": [], "see": [{"by": "everybody"}], "columns": {}, "withdrawn": []}';

-- What a release reads of registers, as whoever released it was allowed to: columns by the register's key.
alter table process_release add column reads jsonb;
