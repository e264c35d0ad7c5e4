import { isDay, type ColumnSql } from "../column";

export const column: ColumnSql = {
  type: "timestamp",
  comparable: (text) => {
    const [day = "", time = ""] = text.split("T");
    return isDay(day) && /^([01]\d|2[0-3]):[0-5]\d$/.test(time);
  },
  read: (name) => `to_char(${name}, 'YYYY-MM-DD"T"HH24:MI')`,
  // As formulas are asked of it: seconds, since midnight or since the beginning of 1970.
  compared: (name) => `extract(epoch from ${name})`,
  searched: false,
  names: false,
  // A day alone means all of it.
  filter: (name, value, bind) =>
    `starts_with(to_char(${name}, 'YYYY-MM-DD"T"HH24:MI'), replace(${bind(value)}, ' ', 'T'))`,
};
