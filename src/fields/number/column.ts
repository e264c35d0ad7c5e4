import { decimalText, type ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "numeric",
  comparable: decimalText,
  read: (name) => `${name}::text`,
  compared: (name) => name,
  searched: false,
  names: false,
  filter: (name, value, bind) => `${name}::text = ${bind(value)}`,
};
