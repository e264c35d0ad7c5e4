import type { Column, RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import type { Db } from "../pool";
import { columnSql } from "./createRegister";
import { indexesOf } from "./indexes";
import { quoted, tableOf } from "./names";

/**
 * Keeps the shapes of all registers as they are until the transaction ends: for whoever changes one of them, or puts to
 * work what was checked against them. Taken before anything else is held, so that nobody waits in a circle.
 */
export const holdShapes = (db: Db, how: "to change" | "to read") =>
  db.query(
    how === "to change"
      ? "select pg_advisory_xact_lock(hashtextextended('shapes of registers', 9))"
      : "select pg_advisory_xact_lock_shared(hashtextextended('shapes of registers', 9))",
  );

/**
 * The shape of a register, held until the transaction ends; null where there is no such register. Its key is not held:
 * whoever writes a record keeps its history by that, and would wait for this while this waits for them.
 */
export const holdShape = async (db: Db, key: string): Promise<RegisterShape | null> =>
  (await db.query("select definition from register where key = $1 for no key update", [key])).rows[0]
    ?.definition ?? null;

export const putShape = (db: Db, shape: RegisterShape) =>
  db.query("update register set definition = $2 where key = $1", [shape.key, JSON.stringify(shape)]);

/** All columns its table has, also those set aside: what is added must be called otherwise. */
export const columnsThere = async (db: Db, key: string): Promise<Set<string>> =>
  new Set(
    (
      await db.query(
        "select column_name as name from information_schema.columns where table_schema = 'register' and table_name = $1",
        [key],
      )
    ).rows.map((r) => r.name),
  );

/** Keeps everybody from reading and writing a register until the transaction ends. */
export const holdTable = (db: Db, key: string) =>
  db.query(`lock table ${tableOf(key)} in access exclusive mode`);

/** Makes the index by which a link is followed back. */
export async function indexColumn(db: Db, shape: RegisterShape, c: Column): Promise<void> {
  if (COLUMNS[c.kind].link?.keyed) await db.query(`create index on ${tableOf(shape.key)} (${quoted(c.id)})`);
}

export const addColumn = (db: Db, key: string, c: Column) =>
  db.query(`alter table ${tableOf(key)} add column ${columnSql(c)}`);

/**
 * Takes a column out of use: what it holds stays in the table, and binds nothing any more. Its indexes go, also because
 * another column may come to be called so, and is found to have them by their names.
 */
export async function setColumnAside(db: Db, key: string, c: Column): Promise<void> {
  const name = quoted(c.id);
  await db.query(`alter table ${tableOf(key)} alter column ${name} drop not null`);
  const { rows } = await db.query<{ drop: string }>(
    `
      with
        col as (
          select attrelid as rel, attnum as num
          from pg_attribute
          where attrelid = $2::regclass and attname = $3
        )
      select format('alter table register.%I drop constraint %I', $1::text, c.conname) as drop
      from col join pg_constraint c on c.conrelid = col.rel and c.conkey = array[col.num] and c.contype = 'f'
      union all
      select format('drop index register.%I', ix.relname)
      from
        col
        join pg_index x on x.indrelid = col.rel and x.indkey[0] = col.num and not x.indisprimary
        join pg_class ix on ix.oid = x.indexrelid
    `,
    [key, `register.${key}`, c.id],
  );
  for (const { drop } of rows) await db.query(drop);
}

export const setNeeded = (db: Db, key: string, c: Column) =>
  db.query(`alter table ${tableOf(key)} alter column ${quoted(c.id)} ${c.needed ? "set" : "drop"} not null`);

export async function setUnique(db: Db, key: string, c: Column): Promise<void> {
  const index = quoted(`${key}_one_${c.id}`.slice(0, 39).replace(/_+$/, ""));
  if (c.unique) await db.query(`create unique index ${index} on ${tableOf(key)} (${quoted(c.id)})`);
  else await db.query(`drop index if exists register.${index}`);
}

/** Makes the indexes of a shape anew where its columns have changed: that over its words is over all of them. */
export async function indexAnew(db: Db, shape: RegisterShape): Promise<void> {
  const words = indexesOf(shape).find((i) => i.on.startsWith("using gin"));
  if (words) {
    await db.query(`drop index if exists register.${words.name}`);
    await db.query(`create index ${words.name} on ${tableOf(shape.key)} ${words.on}`);
  }
}

/** How many records hold something in a column, and how many nothing. */
export const filledIn = async (db: Db, key: string, c: Column): Promise<{ filled: number; empty: number }> =>
  (
    await db.query(
      `select count(${COLUMNS[c.kind].compared(quoted(c.id))})::int as filled,
        (count(*) - count(${COLUMNS[c.kind].compared(quoted(c.id))}))::int as empty
       from ${tableOf(key)}`,
    )
  ).rows[0];

/** A value that more than one record has in a column; null where none is shared. */
export const firstTwice = async (db: Db, key: string, c: Column): Promise<string | null> =>
  (
    await db.query(
      `
        select ${quoted(c.id)}::text as value
        from ${tableOf(key)}
        where ${quoted(c.id)} is not null
        group by ${quoted(c.id)}
        having count(*) > 1
        limit 1
      `,
    )
  ).rows[0]?.value ?? null;

/** How many records hold one of these choices. */
export const countHolding = async (
  db: Db,
  key: string,
  c: Column,
  values: readonly string[],
): Promise<number> =>
  (
    await db.query(
      // Of several that are chosen each stands on a line of its own.
      `select count(*)::int as n from ${tableOf(key)} where string_to_array(${quoted(c.id)}, chr(10)) && $1::text[]`,
      [values],
    )
  ).rows[0].n;

/** Ids of records behind one, in order. */
export const idsAfter = async (db: Db, key: string, after: string, most: number): Promise<string[]> =>
  (
    await db.query(`select t.id::text as id from ${tableOf(key)} t where t.id > $1 order by t.id limit $2`, [
      after,
      most,
    ])
  ).rows.map((r) => r.id);

/** Gives a column that was set aside a name nothing else has, so that another may have its own. */
export async function renameAside(db: Db, key: string, c: Column): Promise<void> {
  const there = await columnsThere(db, key);
  let n = 1;
  const called = () => `aside_${n}_${c.id}`.slice(0, 40);
  while (there.has(called())) n++;
  await db.query(`alter table ${tableOf(key)} rename column ${quoted(c.id)} to ${quoted(called())}`);
}
