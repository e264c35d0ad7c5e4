import type { Letter } from "@/core/letter";
import { at, type Db } from "./pool";

export interface KeptLetterRow {
  id: string;
  name: string;
  version: number;
  letter: Letter;
  process_key: string | null;
  by_person: string | null;
  at: number;
}

export const keptLetters = async (db: Db): Promise<KeptLetterRow[]> =>
  (
    await db.query(
      "select id, name, version, letter, process_key, by_person, at from kept_letter k order by lower(name), k.id",
    )
  ).rows;

/** Locked until the end of the transaction. */
export const keptLetter = async (db: Db, id: string): Promise<KeptLetterRow | null> =>
  (await db.query("select * from kept_letter where id = $1 for update", [id])).rows[0] ?? null;

/** Puts one in its place, as its next version; a new one is its first. @returns which version it is */
export const putKeptLetter = async (db: Db, k: Omit<KeptLetterRow, "version">): Promise<number> =>
  (
    await db.query(
      `
        insert into
          kept_letter as k (id, name, version, letter, process_key, by_person, at)
        values ($1, $2, 1, $3, $4, $5, $6)
        on conflict (id) do update
        set
          name = excluded.name,
          version = k.version + 1,
          letter = excluded.letter,
          process_key = excluded.process_key,
          by_person = excluded.by_person,
          at = excluded.at
        returning version
      `,
      [k.id, k.name, JSON.stringify(k.letter), k.process_key, k.by_person, at(k.at)],
    )
  ).rows[0].version;

export const removeKeptLetter = async (db: Db, id: string): Promise<boolean> =>
  ((await db.query("delete from kept_letter where id = $1", [id])).rowCount ?? 0) === 1;

/** By kept letter the processes whose drafts have taken it, as which version. */
export const keptLettersTaken = async (
  db: Db,
): Promise<{ of: string; version: number; key: string; name: string }[]> =>
  (
    await db.query(`
      select
        l -> 'from' ->> 'letter' as of,
        (l -> 'from' ->> 'version')::int as version,
        d.process_key as key,
        d.definition ->> 'name' as name
      from process_draft d, jsonb_array_elements(coalesce(d.definition -> 'letters', '[]')) l
      where l -> 'from' is not null
      order by lower(d.definition ->> 'name')
    `)
  ).rows;
