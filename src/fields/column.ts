import { dateFrom, isDate } from "@/core/expression";
import type { ColumnKind } from "./shapes";

/** A kind of field as a column of a register's table. */
export interface ColumnSql {
  /** The type of the column, with what else belongs to it. */
  type: string;
  /** Whether the database can compare a text as the column does; what it cannot, no record has. */
  comparable(text: string): boolean;
  /** The column as it is stored in forms: decimal text, ISO dates, ids as text. `name` is quoted already. */
  read(name: string): string;
  /** The column in a condition: an empty text counts as nothing there. */
  compared(name: string): string;
  /** What an index can be asked where it must be this value, which is not empty; absent where `compared` can be. */
  indexed?(name: string, value: string): string;
  /** Whether a search for words looks here. */
  searched: boolean;
  /** Whether its text may name a record. */
  names: boolean;
  /** Absent for what points at no records. */
  link?: ColumnLink;
  /** What can be asked of what it leads to, where that is no record. */
  entries?: Readonly<Record<string, { kind: ColumnKind; sql(name: string): string }>>;
  /** Of one that holds files: what they are called, as it is listed. */
  called?(name: string): string;
  /** A filter by one value; `bind` puts a value among the parameters. */
  filter(name: string, value: string, bind: (v: unknown) => string): string;
}

/** How a column points at records. */
export interface ColumnLink {
  /** Keys of the registers it may point at. */
  registers(c: { register?: string; registers?: readonly string[] }): readonly string[];
  /** The id of the record it points at, as a bigint, where that is of this register. */
  idIn(name: string, register: string): string;
  /** What it points at is held by a foreign key. */
  keyed: boolean;
}

/** A text between wildcards, as itself. */
export const anywhere = (text: string): string => `%${text.replace(/[\\%_]/g, "\\$&")}%`;

/** Whether a text is a number the database can hold a column against. */
export const decimalText = (text: string): boolean => /^-?\d{1,100}(\.\d{1,100})?$/.test(text);
/** Whether a text is a day of the calendar. */
export const isDay = (text: string): boolean => /^\d{4}-\d\d-\d\d$/.test(text) && isDate(dateFrom(text));

/** A short text that is written in one way: found whole by an index, and by any part of it. */
export const plainTextColumn: ColumnSql = {
  type: "text",
  comparable: () => true,
  read: (name) => `${name}::text`,
  compared: (name) => `nullif(${name}, '')`,
  indexed: (name, value) => `${name} = ${value}`,
  searched: true,
  names: false,
  filter: (name, value, bind) => `${name} ilike ${bind(anywhere(value))}`,
};

/** A decimal number. */
export const decimalColumn: ColumnSql = {
  type: "numeric",
  comparable: decimalText,
  read: (name) => `${name}::text`,
  compared: (name) => name,
  searched: false,
  names: false,
  filter: (name, value, bind) => `${name}::text = ${bind(value)}`,
};
