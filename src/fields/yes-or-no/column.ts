import type { ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "boolean",
  comparable: (text) => text === "true" || text === "false",
  read: (name) => name,
  compared: (name) => name,
  searched: false,
  names: false,
  filter: (name, value, bind) => `${name} = ${bind(value === "true")}`,
};
