import type { ColumnSql } from "../column";

/** As they are kept in forms, a line each. */
export const column: ColumnSql = {
  type: "text",
  comparable: () => true,
  read: (name) => name,
  compared: (name) => `nullif(${name}, '')`,
  searched: true,
  names: false,
  // One of them is enough; with the end of its line behind it, it is all that is chosen.
  filter: (name, value, bind) =>
    value.endsWith("\n")
      ? `${name} = ${bind(value.slice(0, -1))}`
      : `position(chr(10) || ${bind(value)} || chr(10) in chr(10) || ${name} || chr(10)) > 0`,
};
