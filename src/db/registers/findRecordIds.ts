import type { RegisterShape } from "@/core/form";
import type { Db } from "../pool";
import { quoted, tableOf } from "./names";

export interface RecordsSought {
  /** Conditions over the columns as SQL (alias `t`), all of which must hold; `bind` puts a value among the parameters. */
  where: readonly ((bind: (value: unknown) => string) => string)[];
  sort: readonly { column: string; descending?: boolean }[];
  /** In the opposite order. */
  backwards: boolean;
  limit: number;
}

/**
 * Ids of the records of a register that meet the conditions, in order: what is empty stands first, or last where it goes
 * down; of what is alike the oldest first, or the newest where it goes down. That is the order of the columns' indexes.
 */
export async function findRecordIds(db: Db, shape: RegisterShape, q: RecordsSought): Promise<string[]> {
  const values: unknown[] = [];
  const bind = (v: unknown) => `$${values.push(v)}`;
  const where = q.where.map((w) => `(${w(bind)})`).join(" and ") || "true";
  const order = q.sort.flatMap(({ column, descending = false }) => {
    if (!shape.columns.some((c) => c.id === column)) return [];
    return [`t.${quoted(column)} ${descending === q.backwards ? "asc nulls first" : "desc nulls last"}`];
  });
  // Its index has the id going the same way as the first column.
  const first = q.sort[0]?.descending ?? false;
  const { rows } = await db.query(
    `
      select t.id
      from ${tableOf(shape.key)} t
      where ${where}
      order by ${[...order, `t.id ${first === q.backwards ? "asc" : "desc"}`].join(", ")}
      limit ${bind(q.limit)}
    `,
    values,
  );
  return rows.map((r) => String(r.id));
}
