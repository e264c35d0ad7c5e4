import type { Letter } from "@/core/letter";
import type { Ladder } from "@/core/route";
import { at, type Db } from "./pool";

/** One thing of a process's definition that is kept for all processes. */
export interface KeptRow<T> {
  id: string;
  name: string;
  version: number;
  thing: T;
  process_key: string | null;
  by_person: string | null;
  at: number;
}

export interface KeptThings<T> {
  all(db: Db): Promise<KeptRow<T>[]>;
  /** Locked until the end of the transaction. */
  one(db: Db, id: string): Promise<KeptRow<T> | null>;
  /** Puts one in its place, as its next version; a new one is its first. Gives which version it is. */
  put(db: Db, k: Omit<KeptRow<T>, "version">): Promise<number>;
  remove(db: Db, id: string): Promise<boolean>;
  /** By what is kept the processes whose drafts have taken it, as which version. */
  taken(db: Db): Promise<{ of: string; version: number; key: string; name: string }[]>;
}

/** Letters and ladders are kept alike: each in a table of its own, and taken into a list of the definition. */
function keptThings<T>(what: "letter" | "ladder"): KeptThings<T> {
  const columns = `id, name, version, ${what} as thing, process_key, by_person, at`;
  return {
    all: async (db) => (await db.query(`select ${columns} from kept_${what} order by lower(name), id`)).rows,
    one: async (db, id) =>
      (await db.query(`select ${columns} from kept_${what} where id = $1 for update`, [id])).rows[0] ?? null,
    put: async (db, k) =>
      (
        await db.query(
          `
            insert into
              kept_${what} as k (id, name, version, ${what}, process_key, by_person, at)
            values ($1, $2, 1, $3, $4, $5, $6)
            on conflict (id) do update
            set
              name = excluded.name,
              version = k.version + 1,
              ${what} = excluded.${what},
              process_key = excluded.process_key,
              by_person = excluded.by_person,
              at = excluded.at
            returning version
          `,
          [k.id, k.name, JSON.stringify(k.thing), k.process_key, k.by_person, at(k.at)],
        )
      ).rows[0].version,
    remove: async (db, id) =>
      ((await db.query(`delete from kept_${what} where id = $1`, [id])).rowCount ?? 0) === 1,
    taken: async (db) =>
      (
        await db.query(`
          select
            l -> 'from' ->> '${what}' as of,
            (l -> 'from' ->> 'version')::int as version,
            d.process_key as key,
            d.definition ->> 'name' as name
          from process_draft d, jsonb_array_elements(coalesce(d.definition -> '${what}s', '[]')) l
          where l -> 'from' is not null
          order by lower(d.definition ->> 'name')
        `)
      ).rows,
  };
}

export const keptLetters = keptThings<Letter>("letter");
export const keptLadders = keptThings<Ladder>("ladder");
