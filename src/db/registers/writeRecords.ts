import type { Column, RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import type { Db } from "../pool";
import { quoted, selectRecord, tableOf, type RecordRow } from "./names";

/** Locks the records in id order, so that two requests writing the same ones cannot wait for each other. */
export async function lockRecords(
  db: Db,
  shape: RegisterShape,
  ids: readonly string[],
): Promise<RecordRow[]> {
  return (
    await db.query(
      `
        select ${selectRecord(shape)}
        from ${tableOf(shape.key)} t
        where t.id = any ($1::bigint[])
        order by t.id
        for update
      `,
      [ids],
    )
  ).rows;
}

/** Links whose records no foreign key holds. */
export const unkeyedLinks = (shape: RegisterShape): Column[] =>
  shape.columns.filter((c) => COLUMNS[c.kind].link?.keyed === false);

/** Keeps records from being removed until the transaction ends. @returns the ids of those that are there */
export async function holdRecords(db: Db, key: string, ids: readonly string[]): Promise<string[]> {
  const { rows } = await db.query(
    `
      select t.id::text as id
      from ${tableOf(key)} t
      where t.id = any ($1::bigint[])
      order by t.id
      for key share
    `,
    [ids],
  );
  return rows.map((r) => r.id);
}

type Values = Readonly<Record<string, string | boolean | null>>;

/**
 * Adds records, all by one statement. What no value is said of stays empty.
 * @returns them as they are kept, in their order
 */
export async function insertRecords(
  db: Db,
  shape: RegisterShape,
  rows: readonly Values[],
): Promise<RecordRow[]> {
  if (rows.length === 0) return [];
  const names = shape.columns.map((c) => quoted(c.id)).join(", ");
  const { rows: made } = await db.query(
    `
      with
        given as (
          select r.*, nextval(pg_get_serial_sequence($2, 'id')) as made, o.nth
          from
            jsonb_array_elements($1::jsonb) with ordinality o (one, nth)
            cross join lateral jsonb_populate_record(null::${tableOf(shape.key)}, o.one) r
        )
      insert into ${tableOf(shape.key)} as t (id, ${names})
      overriding system value
      select made, ${names}
      from given
      order by nth
      returning ${selectRecord(shape)}
    `,
    [JSON.stringify(rows), `register.${shape.key}`],
  );
  // Ids are given out in the order of the rows.
  return made.sort((a, b) => Number(a.id) - Number(b.id));
}

/**
 * Sets columns of records, all by one statement; each record once.
 * @param columns those that are set; every row has all of them
 * @returns them as they are kept, by id; those that are not there are left out
 */
export async function updateRecords(
  db: Db,
  shape: RegisterShape,
  columns: readonly string[],
  rows: readonly (Values & { id: string })[],
): Promise<Map<string, RecordRow>> {
  if (rows.length === 0 || columns.length === 0) return new Map();
  const { rows: made } = await db.query(
    `
      update ${tableOf(shape.key)} t
      set ${columns.map((c) => `${quoted(c)} = g.${quoted(c)}`).join(", ")}
      from jsonb_populate_recordset(null::${tableOf(shape.key)}, $1::jsonb) g
      where t.id = g.id
      returning ${selectRecord(shape)}
    `,
    [JSON.stringify(rows)],
  );
  return new Map(made.map((r) => [r.id, r]));
}

export const deleteRecords = (db: Db, shape: RegisterShape, ids: readonly string[]) =>
  db.query(`delete from ${tableOf(shape.key)} where id = any($1::bigint[])`, [ids]);
