import { anywhere, type ColumnSql } from "../column";

/** The id of a file the record keeps. */
export const column: ColumnSql = {
  type: "text",
  comparable: () => true,
  read: (name) => name,
  compared: (name) => `nullif(${name}, '')`,
  searched: false,
  names: false,
  called: (name) => `(select f.name from file f where f.id = ${name})`,
  // By what the file is called.
  filter: (name, value, bind) =>
    `exists (select from file f where f.id = ${name} and f.name ilike ${bind(anywhere(value))})`,
};
