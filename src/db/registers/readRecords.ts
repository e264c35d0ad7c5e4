import type { Column, RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import type { Db } from "../pool";
import { wordsLike } from "./indexes";
import { quoted, selectRecord, tableOf, type RecordRow } from "./names";
import { likeText } from "../likePart";

export async function recordsByIds(
  db: Db,
  shape: RegisterShape,
  ids: readonly string[],
): Promise<RecordRow[]> {
  if (ids.length === 0) return [];
  return (
    await db.query(
      `select ${selectRecord(shape)} from ${tableOf(shape.key)} t where t.id = any($1::bigint[])`,
      [ids],
    )
  ).rows;
}

/** Records with a value in a column, at most so many. */
export async function recordsWith(
  db: Db,
  shape: RegisterShape,
  column: string,
  value: string,
  most: number,
): Promise<RecordRow[]> {
  if (!shape.columns.some((c) => c.id === column)) return [];
  return (
    await db.query(
      `select ${selectRecord(shape)} from ${tableOf(shape.key)} t where t.${quoted(column)} = $1 order by t.id limit $2`,
      [value, most],
    )
  ).rows;
}

/** All records, of the columns asked for that the register has; at most so many. */
export async function everyRecord(
  db: Db,
  shape: RegisterShape,
  columns: readonly string[],
  most: number,
): Promise<RecordRow[]> {
  const columnsHere = shape.columns.filter((c) => columns.includes(c.id));
  return (
    await db.query(
      `select ${selectRecord({ ...shape, columns: columnsHere })} from ${tableOf(shape.key)} t order by t.id limit $1`,
      [most],
    )
  ).rows;
}

/**
 * Records with a text in what names them, those that begin so first.
 * @param whole the register with all its columns, where `shape` has only those somebody sees
 */
export async function recordsTitled(
  db: Db,
  shape: RegisterShape,
  text: string,
  limit: number,
  whole: RegisterShape = shape,
): Promise<RecordRow[]> {
  const names = shape.title.filter((id) => shape.columns.some((c) => c.id === id && COLUMNS[c.kind].names));
  if (names.length === 0) return [];
  const like = likeText(text);
  const any = (pattern: string) => names.map((id) => `t.${quoted(id)} ilike ${pattern}`).join(" or ");
  // What holds it anywhere holds it among its words: those have an index.
  const words = wordsLike(shape, whole, "$1");
  const found = `${words ? `${words} and ` : ""}(${any("$1")})`;
  const few = (condition: string) => `
    (
      select t.id
      from ${tableOf(shape.key)} t
      where ${condition}
      limit $3
    )
  `;
  return (
    await db.query(
      `
        select ${selectRecord(shape)}
        from
          (
            select id, min(nth) as nth
            from
              (
                select id, 0 as nth from ${few(`${found} and (${any("$2")})`)} a
                union all
                select id, 1 as nth from ${few(found)} b
              ) x
            group by id
          ) f
          join ${tableOf(shape.key)} t on t.id = f.id
        order by f.nth, t.id
        limit $3
      `,
      [`%${like}%`, `${like}%`, limit],
    )
  ).rows;
}

/** By what stands in a link, as it is stored, the records whose link that is. */
export async function recordsPointing(
  db: Db,
  shape: RegisterShape,
  column: Column,
  pointers: readonly string[],
): Promise<Map<string, string[]>> {
  const c = `t.${quoted(column.id)}`;
  const { rows } = await db.query(
    `
      select ${c}::text as to_id, array_agg(t.id::text order by t.id) as records
      from ${tableOf(shape.key)} t
      where ${c} = any($1::${COLUMNS[column.kind].type}[])
      group by ${c}
    `,
    [pointers],
  );
  return new Map(rows.map((r) => [r.to_id, r.records]));
}

/** Records whose date, or moment, in a column lies after one and up to another, behind a record, in order of their ids. */
export async function recordsDated(
  db: Db,
  shape: RegisterShape,
  column: string,
  dates: { after: string; to: string },
  behind: string,
  most: number,
): Promise<RecordRow[]> {
  const c = `t.${quoted(column)}`;
  const { type } = COLUMNS[shape.columns.find((x) => x.id === column)!.kind];
  return (
    await db.query(
      `
        select ${selectRecord(shape)}
        from ${tableOf(shape.key)} t
        where ${c} > $1::${type} and ${c} <= $2::${type} and t.id > $3
        order by t.id
        limit $4
      `,
      [dates.after, dates.to, behind, most],
    )
  ).rows;
}
