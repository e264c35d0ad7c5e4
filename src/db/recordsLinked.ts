import { createHash } from "node:crypto";
import type { RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import type { Db } from "./pool";
import { quoted, selectRecord, tableOf, type RecordRow } from "./registers";

const MOST_NAMED = 300;
const named = new Set<string>();

export interface LinkedRecord {
  register: string;
  record: RecordRow;
}

/**
 * Records by their ids, what they link to, and so on: one statement, however many registers they lie in, because every
 * round trip costs more than reading a record.
 * @param wanted ids by the key of a register
 * @param depth how often links are followed; 0 for the records alone
 */
export async function recordsLinked(
  db: Db,
  shapes: Readonly<Record<string, RegisterShape>>,
  wanted: ReadonlyMap<string, readonly string[]>,
  depth: number,
): Promise<LinkedRecord[]> {
  const values: unknown[] = [];
  const parts: { name: string; shape: RegisterShape; sql: string }[] = [];
  let level: { name: string; shape: RegisterShape }[] = [];
  const add = (shape: RegisterShape, ids: string) => {
    const name = `part_${parts.length}`;
    parts.push({
      name,
      shape,
      sql: `select ${selectRecord(shape)} from ${tableOf(shape.key)} t where t.id ${ids}`,
    });
    return { name, shape };
  };
  for (const [key, ids] of wanted)
    if (shapes[key] && ids.length > 0) level.push(add(shapes[key], `= any($${values.push(ids)}::bigint[])`));
  for (let i = 0; i < depth; i++) {
    const links = new Map<string, string[]>();
    for (const { name, shape } of level)
      for (const c of shape.columns)
        for (const key of COLUMNS[c.kind].link?.registers(c) ?? []) {
          if (!shapes[key]) continue;
          const to = COLUMNS[c.kind].link!.idIn(quoted(c.id), key);
          const id = `select (${to})::bigint from ${name} where ${quoted(c.id)} is not null`;
          links.set(key, [...(links.get(key) ?? []), id]);
        }
    level = [...links].map(([key, ids]) => add(shapes[key]!, `in (${ids.join(" union ")})`));
  }
  if (parts.length === 0) return [];
  const text = `
    with ${parts.map((p) => `${p.name} as (${p.sql})`).join(",\n")}
    ${parts.map((p) => `select '${p.shape.key.replaceAll("'", "''")}' as register, to_jsonb(x) as record from ${p.name} x`).join(" union all ")}
  `;
  const name = `linked-${createHash("sha1").update(text).digest("base64url")}`;
  // Planned once for each shape of what is asked for: many parts take longer to plan than to read. Every connection keeps
  // its plans, so that there are only so many; releases come and go for years.
  if (named.size < MOST_NAMED) named.add(name);
  return (await db.query<LinkedRecord>({ ...(named.has(name) ? { name } : {}), text, values })).rows;
}
