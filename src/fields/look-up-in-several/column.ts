import type { ColumnSql } from "../column";

/** As it is stored in forms, "treatments/12": no foreign key can lead to several tables. */
export const column: ColumnSql = {
  type: "text",
  comparable: () => true,
  read: (name) => name,
  compared: (name) => `nullif(${name}, '')`,
  indexed: (name, value) => `${name} = ${value}`,
  searched: false,
  names: false,
  link: {
    registers: ({ registers = [] }) => registers,
    idIn: (name, register) =>
      `case when split_part(${name}, '/', 1) = '${register.replaceAll("'", "''")}' then split_part(${name}, '/', 2)::bigint end`,
    keyed: false,
  },
  filter: (name, value, bind) => `${name} = ${bind(value)}`,
};
