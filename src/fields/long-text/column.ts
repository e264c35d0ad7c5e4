import { plainTextColumn, type ColumnSql } from "../column";

/** Its text may name a record. */
export const column: ColumnSql = { ...plainTextColumn, names: true };
