import type { ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "bigint",
  read: (name) => `${name}::text`,
  compared: (name) => `${name}::text`,
  searched: false,
  names: false,
  filter: (name, value, bind) => `${name}::text = ${bind(value)}`,
};
