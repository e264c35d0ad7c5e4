import type { Db } from "./pool";

/** How fast tries may follow each other in one bucket: an account, a browser, an address. */
export interface Pace {
  /** So many tries may come as fast as they like. */
  free: number;
  /** Then each wait doubles, from two seconds up to this. */
  longest: number;
}
/** What has been quiet for so long starts anew. */
const FORGET = "15 minutes";

/**
 * Takes a place for one try to sign in. One statement decides and keeps, so that tries side by side cannot both have
 * the same place.
 * @returns 0 when it may be tried now, else the seconds until the next place is free
 */
export async function takePlace(db: Db, bucket: string, pace: Pace): Promise<number> {
  const { rows } = await db.query(
    `
      with
        taken as (
          insert into sign_in_pace as p (bucket, tries, at, free_at)
          values ($1, 1, now(), now())
          on conflict (bucket) do update
          set
            tries = case when p.at < now() - interval '${FORGET}' then 1 else p.tries + 1 end,
            at = now(),
            free_at = now() + make_interval(
              secs => case
                when p.at < now() - interval '${FORGET}' or p.tries + 1 < $2 then 0
                else least($3, power(2, least(p.tries + 2 - $2, 20)))
              end
            )
          where p.free_at <= now()
          returning 0 as wait
        )
      select wait from taken
      union all
      select greatest(1, ceil(extract(epoch from free_at - now())))::int
      from sign_in_pace
      where bucket = $1 and not exists (select from taken)
    `,
    [bucket, pace.free, pace.longest],
  );
  // Neither taken nor seen: somebody else made the bucket while this statement was under way, and has the place.
  return rows[0]?.wait ?? 1;
}
/** After a success the account's tries are forgotten. */
export const forgetTries = (db: Db, bucket: string) =>
  db.query("delete from sign_in_pace where bucket = $1", [bucket]);
/** A try that succeeded was none of a stranger's. */
export const giveBack = (db: Db, bucket: string) =>
  db.query("update sign_in_pace set tries = greatest(0, tries - 1), free_at = now() where bucket = $1", [
    bucket,
  ]);
export const sweepPaces = (db: Db) =>
  db.query(`delete from sign_in_pace where at < now() - interval '${FORGET}' and free_at < now()`);

/** Whether somebody has signed in with this browser before. */
export const isKnownBrowser = async (db: Db, hash: Buffer, person: string): Promise<boolean> =>
  ((await db.query("select 1 from known_browser where token_hash = $1 and person_id = $2", [hash, person]))
    .rowCount ?? 0) > 0;
export const knowBrowser = (db: Db, hash: Buffer, person: string) =>
  db.query(
    `
      insert into known_browser (token_hash, person_id)
      values ($1, $2)
      on conflict (token_hash, person_id) do update
      set at = now()
    `,
    [hash, person],
  );
export const sweepBrowsers = (db: Db) =>
  db.query("delete from known_browser where at < now() - interval '400 days'");
