import type { ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "text references public.person (id)",
  comparable: () => true,
  read: (name) => `${name}::text`,
  compared: (name) => name,
  searched: false,
  names: false,
  filter: (name, value, bind) => `${name}::text = ${bind(value)}`,
};
