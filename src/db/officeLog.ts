import type { Db } from "./pool";

export interface LogRow {
  id: string;
  at: number;
  what: string;
  by_person: string | null;
  via: string | null;
  address: string;
  data: Record<string, unknown>;
}
/** The application's now, in SQL. */
const NOW = `now() + make_interval(secs => coalesce((select (value #>> '{}')::numeric from setting where key = 'clock_offset'), 0)::float8 / 1000)`;

export const insertLog = (db: Db, e: Omit<LogRow, "id" | "at">) =>
  db.query({
    name: "log",
    text: `
      insert into office_log (at, what, by_person, via, address, data)
      values (${NOW}, $1, $2, $3, $4, $5)
    `,
    values: [e.what, e.by_person, e.via, e.address, JSON.stringify(e.data)],
  });

export interface LogSearch {
  what: readonly string[] | null;
  person: string | null;
  /** Only what came before this entry. */
  before: string | null;
  limit: number;
}
/** Entries, newest first. What concerns somebody is what they did, and what was done about them. */
export const findLog = async (db: Db, s: LogSearch): Promise<LogRow[]> =>
  (
    await db.query<LogRow>(
      `
        select id, at, what, by_person, via, address, data
        from office_log
        where
          ($1::text[] is null or what = any($1))
          and ($2::text is null or by_person = $2 or data ->> 'person' = $2)
          and ($3::bigint is null or id < $3)
        order by id desc
        limit $4
      `,
      [s.what, s.person, s.before, s.limit],
    )
  ).rows;

/** Removes what is older than so many days. */
export const sweepLog = async (db: Db, days: number): Promise<number> =>
  (await db.query(`delete from office_log where at < ${NOW} - make_interval(days => $1)`, [days])).rowCount ??
  0;
