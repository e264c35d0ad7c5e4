import { isDay, type ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "date",
  comparable: isDay,
  read: (name) => `to_char(${name}, 'YYYY-MM-DD')`,
  compared: (name) => name,
  searched: false,
  names: false,
  filter: (name, value, bind) => `${name}::text = ${bind(value)}`,
};
