import type { ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "bigint",
  read: (name) => `${name}::text`,
  compared: (name) => `${name}::text`,
  indexed: (name, value) =>
    `${name} = case when ${value} ~ '^[0-9]{1,18}$' then (${value})::bigint else -1 end`,
  searched: false,
  names: false,
  filter: (name, value, bind) => `${name}::text = ${bind(value)}`,
};
