import type { ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "text",
  comparable: () => true,
  read: (name) => `${name}::text`,
  compared: (name) => `nullif(${name}, '')`,
  indexed: (name, value) => `${name} = ${value}`,
  searched: true,
  names: false,
  filter: (name, value, bind) => `${name}::text = ${bind(value)}`,
};
