import { OF_REGISTER } from "@/core/expression";
import type { Column, RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import { quoted, tableOf } from "./names";

export interface ColumnFound {
  sql: string;
  column: Column;
  /** What an index can be asked where it must be this value. */
  indexed?(value: string): string;
}

const sameType = (a: Column, b: Column): boolean =>
  a.kind === b.kind && a.register === b.register && a.registers?.join() === b.registers?.join();

/** Of which register it is that a link points at. */
const keyOf = (c: Column, sql: string): ColumnFound => ({
  column: { id: c.id, name: OF_REGISTER, kind: "text" },
  sql: `nullif(split_part(${sql}, '/', 1), '')`,
});

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
    return through(c, sql, alias, rest, depth);
  };
  /** What lies behind a link: in each register it may lead to, of the same kind in all that have it. */
  const through = (
    c: Column,
    sql: string,
    alias: string,
    rest: readonly string[],
    depth: number,
  ): ColumnFound | null => {
    const { link, entries } = COLUMNS[c.kind];
    const entry = rest.length === 1 && entries && Object.hasOwn(entries, rest[0]!) ? entries[rest[0]!] : null;
    if (entry) return { column: { id: c.id, name: rest[0]!, kind: entry.kind }, sql: entry.sql(sql) };
    const keys = link?.registers(c) ?? [];
    const targets = keys.flatMap((key) => registers[key] ?? []);
    // One that is not known, or not seen, may be what it points at.
    if (!link || targets.length < keys.length) return null;
    const inner = `${alias}${depth}`;
    const found = targets.flatMap((target) => {
      const at = find(target, inner, rest, depth + 1);
      return at ? [{ key: target.key, at }] : [];
    });
    const [first] = found;
    if (!first) return !link.keyed && rest.length === 1 && rest[0] === OF_REGISTER ? keyOf(c, sql) : null;
    if (found.some(({ at }) => !sameType(at.column, first.at.column))) return null;
    const each = found.map(
      ({ key, at }) =>
        `(select ${at.sql} from ${tableOf(key)} ${inner} where ${inner}.id = ${link.idIn(sql, key)})`,
    );
    return { column: first.at.column, sql: each.length > 1 ? `coalesce(${each.join(", ")})` : each[0]! };
  };
  return (path) => find(shape, "t", path, 0);
}
