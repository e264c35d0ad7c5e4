import type { ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "boolean",
  read: (name) => name,
  compared: (name) => name,
  searched: false,
  names: false,
  filter: (name, value, bind) => `${name} = ${bind(value === "true")}`,
};
