import { anywhere, type ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "text",
  comparable: () => true,
  read: (name) => `${name}::text`,
  compared: (name) => `nullif(${name}, '')`,
  indexed: (name, value) => `${name} = ${value}`,
  searched: true,
  names: false,
  filter: (name, value, bind) => `${name} ilike ${bind(anywhere(value))}`,
};
