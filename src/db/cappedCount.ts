import type { Db } from "./pool";

/** Lists are counted up to so many, and paged no further: beyond it people search, and counting costs. */
export const MOST_COUNTED = 5_000;
/** What a search finds is counted less far: each row must be read for it, and whoever finds more says more. */
export const MOST_FOUND = 500;
export const mostCounted = (search: string | undefined): number =>
  search?.trim() ? MOST_FOUND : MOST_COUNTED;

/**
 * How many rows there are, counted up to one more than `most`: that many means "more than".
 * @param from "from … where …"
 */
export const cappedCount = async (
  db: Db,
  from: string,
  values: readonly unknown[],
  most: number = MOST_COUNTED,
): Promise<number> => (await db.query(countedSql(from, most), [...values])).rows[0].n;

/** The same as a statement, to stand in another. */
export const countedSql = (from: string, most: number): string =>
  `select count(*)::int as n from (select 1 ${from} limit ${most + 1}) x`;
