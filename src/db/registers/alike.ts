import type { RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import type { Db } from "../pool";
import { quoted, selectRecord, tableOf, type RecordRow } from "./names";

/** Of one value so many records are told at most: more than one is enough to know that it names none of them. */
const ALIKE_TOLD = 3;

/**
 * Records that have one of these values in a column, by value; compared as the column compares.
 * @param values as they are stored: decimal text, ISO dates
 */
export async function recordsWithAny(
  db: Db,
  shape: RegisterShape,
  column: string,
  values: readonly string[],
): Promise<Map<string, RecordRow[]>> {
  const c = shape.columns.find((x) => x.id === column);
  const out = new Map<string, RecordRow[]>();
  if (!c) return out;
  const type = COLUMNS[c.kind].type.split(" ")[0]!;
  const compared = values.filter(COLUMNS[c.kind].comparable);
  if (compared.length === 0) return out;
  const { rows } = await db.query(
    `
      select g.text as "#", x.*
      from
        unnest($1::text[]) as g (text)
        cross join lateral (
          select ${selectRecord(shape)}
          from ${tableOf(shape.key)} t
          where t.${quoted(c.id)} = g.text::${type}
          order by t.id
          limit ${ALIKE_TOLD}
        ) x
    `,
    [compared],
  );
  for (const { "#": text, ...record } of rows) {
    const mine = out.get(text) ?? [];
    mine.push(record);
    out.set(text, mine);
  }
  return out;
}

/** Ids of records by what names them: the first column of their title, or one that no two share. */
export async function recordsNamed(
  db: Db,
  shape: RegisterShape,
  texts: readonly string[],
): Promise<Map<string, Set<string>>> {
  const names = shape.columns.filter(
    (c) => COLUMNS[c.kind].names && (c.id === shape.title[0] || c.id === shape.key_column || c.unique),
  );
  const out = new Map<string, Set<string>>();
  for (const c of names)
    for (const [text, records] of await recordsWithAny(db, shape, c.id, texts))
      for (const r of records) out.set(text, (out.get(text) ?? new Set()).add(r.id));
  return out;
}
