import type { Column, RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import { quoted, tableOf } from "./names";

export interface ColumnFound {
  sql: string;
  column: Column;
  /** What an index can be asked where it must be this value. */
  indexed?(value: string): string;
}

/** Finds the columns of a register, and of what it links to, for conditions written as formulas (alias `t`). */
export function columnsAsSql(
  shape: RegisterShape,
  registers: Readonly<Record<string, RegisterShape>>,
): (path: readonly string[]) => ColumnFound | null {
  const MAX_LINKS = 3;
  const find = (
    s: RegisterShape,
    alias: string,
    path: readonly string[],
    depth: number,
  ): ColumnFound | null => {
    const [name, ...rest] = path;
    const c = s.columns.find((x) => x.name === name);
    if (!c || depth > MAX_LINKS) return null;
    const sql = `${alias}.${quoted(c.id)}`;
    const { indexed } = COLUMNS[c.kind];
    if (rest.length === 0)
      return {
        column: c,
        sql: COLUMNS[c.kind].compared(sql),
        ...(indexed ? { indexed: (value: string) => indexed(sql, value) } : {}),
      };
    const target = c.kind === "look-up" && c.register ? registers[c.register] : undefined;
    const inner = target && find(target, `${alias}${depth}`, rest, depth + 1);
    return target && inner
      ? {
          column: inner.column,
          sql: `(select ${inner.sql} from ${tableOf(target.key)} ${alias}${depth} where ${alias}${depth}.id = ${sql})`,
        }
      : null;
  };
  return (path) => find(shape, "t", path, 0);
}
