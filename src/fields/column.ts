/** A kind of field as a column of a register's table. */
export interface ColumnSql {
  /** The type of the column, with what else belongs to it. */
  type: string;
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
  /** A filter by one value; `bind` puts a value among the parameters. */
  filter(name: string, value: string, bind: (v: unknown) => string): string;
}

/** A text between wildcards, as itself. */
export const anywhere = (text: string): string => `%${text.replace(/[\\%_]/g, "\\$&")}%`;
