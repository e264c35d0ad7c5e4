import { anywhere, type ColumnSql } from "../column";

/** The ids in it, as an array. */
const ids = (name: string) => `string_to_array(${name}, chr(10))`;

/** The ids of the files the record keeps, a line each. */
export const column: ColumnSql = {
  type: "text",
  comparable: () => true,
  read: (name) => name,
  compared: (name) => `nullif(${name}, '')`,
  searched: false,
  names: false,
  called: (name) =>
    `(select string_agg(f.name, '; ' order by x.nth) from unnest(${ids(name)}) with ordinality x (id, nth) join file f on f.id = x.id)`,
  // One of them that is called so is enough.
  filter: (name, value, bind) =>
    `exists (select from file f where f.id = any (${ids(name)}) and f.name ilike ${bind(anywhere(value))})`,
};
