import type { ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "bigint",
  comparable: (text) => /^\d{1,18}$/.test(text),
  read: (name) => `${name}::text`,
  compared: (name) => `${name}::text`,
  indexed: (name, value) =>
    `${name} = case when ${value} ~ '^[0-9]{1,18}$' then (${value})::bigint else -1 end`,
  searched: false,
  names: false,
  link: {
    registers: ({ register }) => (register ? [register] : []),
    idIn: (name) => name,
    keyed: true,
  },
  filter: (name, value, bind) => `${name}::text = ${bind(value)}`,
};
