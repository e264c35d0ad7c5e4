import type { Db } from "./pool";

/** What is known of a sign-in beside whose it is. */
export interface SessionFrom {
  /** By what its person showed who they are. */
  how: string;
  browser: string;
  address: string;
}

/** @returns the session's id, which may be named; its token may not */
export async function insertSession(
  db: Db,
  hash: Buffer,
  person: string,
  days: number,
  from: SessionFrom,
): Promise<string> {
  const { rows } = await db.query(
    `
      insert into session (token_hash, person_id, expires_at, how, browser, address)
      values ($1, $2, now() + make_interval(days => $3), $4, $5, $6)
      returning id
    `,
    [hash, person, days, from.how, from.browser, from.address],
  );
  return rows[0].id;
}

export interface OpenSession {
  id: string;
  person: string;
  /** When its person last showed who they are, by the machine's clock. */
  provedAt: number;
  /** The directory's version and the clock's offset: whoever asks needs them next, and a round trip costs more. */
  directory: string;
  clockOffset: number;
}
/**
 * A session that has not ended: neither too old nor too long unused. That it is used is noted to the minute.
 * @param idleHours after which it ends when nobody uses it
 */
export async function openSession(db: Db, hash: Buffer, idleHours: number): Promise<OpenSession | null> {
  const { rows } = await db.query({
    name: "session",
    text: `
      select
        s.id,
        s.person_id as person,
        s.proved_at as "provedAt",
        s.seen_at < now() - interval '1 minute' as unseen,
        (
          select value #>> '{}'
          from setting
          where key = 'directory_version'
        ) as directory,
        (
          select value #>> '{}'
          from setting
          where key = 'clock_offset'
        ) as clock_offset
      from session s join person p on p.id = s.person_id
      where
        s.token_hash = $1
        and s.expires_at > now()
        and s.seen_at > now() - make_interval(hours => $2)
        and p.active
    `,
    values: [hash, idleHours],
  });
  const s = rows[0];
  if (!s) return null;
  if (s.unseen) await db.query("update session set seen_at = now() where id = $1", [s.id]);
  return {
    id: s.id,
    person: s.person,
    provedAt: s.provedAt,
    directory: s.directory,
    clockOffset: Number(s.clock_offset ?? 0),
  };
}

/** Ends a session by its token; whose it was, if there was one. */
export async function endByToken(db: Db, hash: Buffer): Promise<{ id: string; person: string } | null> {
  const { rows } = await db.query(
    "delete from session where token_hash = $1 returning id, person_id as person",
    [hash],
  );
  return rows[0] ?? null;
}
export const endSession = async (db: Db, person: string, id: string): Promise<boolean> =>
  ((await db.query("delete from session where id = $1 and person_id = $2", [id, person])).rowCount ?? 0) > 0;

/** Ends all of somebody's sessions but one. */
export const endSessions = async (db: Db, person: string, but: string | null): Promise<number> =>
  (await db.query("delete from session where person_id = $1 and id is distinct from $2", [person, but]))
    .rowCount ?? 0;

/** Its person has just shown again who they are. */
export const proveSession = (db: Db, id: string) =>
  db.query("update session set proved_at = now() where id = $1", [id]);

export interface SessionRow extends SessionFrom {
  id: string;
  created_at: number;
  seen_at: number;
}
export const sessionsOf = async (db: Db, person: string, idleHours: number): Promise<SessionRow[]> =>
  (
    await db.query<SessionRow>(
      `
        select id, how, browser, address, created_at, seen_at
        from session
        where person_id = $1 and expires_at > now() and seen_at > now() - make_interval(hours => $2)
        order by seen_at desc, id desc
        limit 200
      `,
      [person, idleHours],
    )
  ).rows;

/** Removes what has ended anyway; how many. */
export const sweepSessions = async (db: Db, idleHours: number): Promise<number> =>
  (
    await db.query(
      "delete from session where expires_at < now() or seen_at < now() - make_interval(hours => $1)",
      [idleHours],
    )
  ).rowCount ?? 0;
