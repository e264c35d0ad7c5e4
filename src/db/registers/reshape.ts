import { createHash } from "node:crypto";
import type { Column, RegisterShape, SheetReading } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import type { Db } from "../pool";
import { columnSql } from "./createRegister";
import { quoted, tableOf } from "./names";

export type ReshapeState = "working" | "asks" | "done" | "refused" | "stopped";

/** What nothing can be made of in a column that comes to be of another kind. */
export interface ReshapeLoss {
  column: string;
  name: string;
  count: number;
  examples: { title: string; text: string }[];
}

/** A change of a register's shape that goes through its records beside everybody's work. */
export interface ReshapeRow {
  id: string;
  register_key: string;
  before: RegisterShape;
  after: RegisterShape;
  lets: string[];
  person_id: string;
  state: ReshapeState;
  last_id: string;
  mark: string;
  done: number;
  total: number;
  reading: Readonly<Record<string, SheetReading>>;
  loses: ReshapeLoss[];
  why: string | null;
}
const SELECTED = `id::text as id, register_key, before, after, lets, person_id, state, last_id::text as last_id,
  mark::text as mark, done, total, reading, loses, why`;

export const insertReshape = async (
  db: Db,
  r: Pick<ReshapeRow, "register_key" | "before" | "after" | "lets" | "person_id" | "total"> & {
    at: string;
  },
): Promise<string> =>
  (
    await db.query(
      `
        insert into register_reshape (register_key, before, after, lets, person_id, total, at, state, mark)
        values ($1, $2, $3, $4, $5, $6, $7, 'working',
          (select coalesce(max(id), 0) from register_history where register_key = $1))
        returning id::text as id
      `,
      [r.register_key, JSON.stringify(r.before), JSON.stringify(r.after), r.lets, r.person_id, r.total, r.at],
    )
  ).rows[0].id;

/** Held until the transaction ends: two workers that come to it go on one after the other. */
export const holdReshape = async (db: Db, id: string): Promise<ReshapeRow | null> =>
  (await db.query(`select ${SELECTED} from register_reshape where id = $1 for update`, [id])).rows[0] ?? null;

/** The newest of a register that is not over, or ended without anybody having seen why. */
export const openReshape = async (db: Db, register: string): Promise<ReshapeRow | null> =>
  (
    await db.query(
      `
        select ${SELECTED}
        from register_reshape
        where register_key = $1 and state in ('working', 'asks', 'refused')
        order by register_reshape.id desc
        limit 1
      `,
      [register],
    )
  ).rows[0] ?? null;

export const saveReshape = (
  db: Db,
  id: string,
  r: Pick<ReshapeRow, "state" | "last_id" | "done" | "lets" | "reading" | "loses" | "why">,
) =>
  db.query(
    `
      update register_reshape
      set state = $2, last_id = $3, done = $4, lets = $5, reading = $6, loses = $7, why = $8
      where id = $1
    `,
    [id, r.state, r.last_id, r.done, r.lets, JSON.stringify(r.reading), JSON.stringify(r.loses), r.why],
  );

/** Goes through all records anew, because so many were written meanwhile. The table is held, so that none is being. */
export const beginAgain = (db: Db, id: string) =>
  db.query(
    `
      update register_reshape r
      set
        last_id = 0,
        done = 0,
        mark = (select coalesce(max(h.id), 0) from register_history h where h.register_key = r.register_key)
      where id = $1
    `,
    [id],
  );

/** All records there are. */
export const sizeOf = async (db: Db, key: string): Promise<number> =>
  (await db.query(`select count(*)::int as n from ${tableOf(key)}`)).rows[0].n;

export const queueReshape = (db: Db, id: string) =>
  db.query(
    "select graphile_worker.add_job('register_reshape', json_build_object('reshape', $1::text), max_attempts := 25)",
    [id],
  );

/** Where a column's values stand until it takes its place. */
export const besideId = (column: string): string =>
  `beside_${createHash("sha1").update(column).digest("hex").slice(0, 20)}`;
export const beside = (c: Column): Column => ({ ...c, id: besideId(c.id), needed: false });

export const addBeside = (db: Db, key: string, c: Column) =>
  db.query(`alter table ${tableOf(key)} add column ${columnSql(beside(c))}`);
export const dropBeside = (db: Db, key: string, column: string) =>
  db.query(`alter table ${tableOf(key)} drop column if exists ${quoted(besideId(column))}`);
/** Puts what was made beside in the column's place, which is free. */
export const takePlace = (db: Db, key: string, column: string) =>
  db.query(`alter table ${tableOf(key)} rename column ${quoted(besideId(column))} to ${quoted(column)}`);
export const dropColumn = (db: Db, key: string, column: string) =>
  db.query(`alter table ${tableOf(key)} drop column ${quoted(column)}`);

/** Records that were written after a change of the register, in order. */
export const changedSince = async (db: Db, key: string, mark: string): Promise<string[]> =>
  (
    await db.query(
      `
        select distinct record_id as id
        from register_history
        where register_key = $1 and id > $2
        order by record_id
      `,
      [key, mark],
    )
  ).rows.map((r) => String(r.id));

/** How many records hold something in a column and nothing in what was made of it; some of them. */
export async function lostIn(
  db: Db,
  key: string,
  from: Column,
  most: number,
): Promise<{ count: number; ids: string[] }> {
  const lost = `${COLUMNS[from.kind].compared(quoted(from.id))} is not null and ${quoted(besideId(from.id))} is null`;
  const { rows } = await db.query(
    `
      select
        (select count(*)::int from ${tableOf(key)} where ${lost}) as count,
        array(select id::text from ${tableOf(key)} where ${lost} order by ${tableOf(key)}.id limit $1) as ids
    `,
    [most],
  );
  return rows[0];
}

/** Texts that stand in a column, each once; at most so many. */
export const textsIn = async (db: Db, key: string, c: Column, most: number): Promise<string[]> =>
  (
    await db.query(
      `
        select distinct ${COLUMNS[c.kind].read(quoted(c.id))}::text as text
        from ${tableOf(key)}
        where ${quoted(c.id)} is not null
        limit $1
      `,
      [most],
    )
  ).rows.map((r) => r.text);

/** Takes the index over all words away: a worker makes it anew beside everybody's work. */
export const dropIndexes = async (db: Db, names: readonly string[]): Promise<void> => {
  for (const name of names) await db.query(`drop index if exists register.${name}`);
};
