import type { ColumnSql } from "@/fields/column";

export const column: ColumnSql = {
  type: "numeric",
  comparable: () => true,
  read: (name) => `${name}::text`,
  compared: (name) => name,
  searched: false,
  names: false,
  filter: (name, value, bind) => `${name}::text = ${bind(value)}`,
};
