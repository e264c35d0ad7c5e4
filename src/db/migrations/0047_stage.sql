-- The stage a request stands in, as its owner calls it for whoever asked; null where no stage is reached, or it is not known:
-- of a request kept in parts, and of those nothing has happened to since before this.
alter table request add column stage text;
