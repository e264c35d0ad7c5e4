import type { Db } from "./pool";

/** Lists are counted up to so many, and paged no further: beyond it people search, and counting costs. */
export const MOST_COUNTED = 10_000;

/**
 * How many rows there are, counted up to one more than `MOST_COUNTED`: that many means "more than".
 * @param from "from … where …"
 */
export const cappedCount = async (db: Db, from: string, values: readonly unknown[]): Promise<number> =>
  (await db.query(countedSql(from), [...values])).rows[0].n;

/** The same as a statement, to stand in another. */
export const countedSql = (from: string): string =>
  `select count(*)::int as n from (select 1 ${from} limit ${MOST_COUNTED + 1}) x`;
