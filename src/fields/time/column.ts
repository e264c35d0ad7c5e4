import type { ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "time",
  comparable: (text) => /^([01]\d|2[0-3]):[0-5]\d$/.test(text),
  read: (name) => `to_char(${name}, 'HH24:MI')`,
  // As formulas are asked of it: seconds, since midnight or since the beginning of 1970.
  compared: (name) => `extract(epoch from ${name})`,
  searched: false,
  names: false,
  filter: (name, value, bind) => `to_char(${name}, 'HH24:MI') = ${bind(value)}`,
};
