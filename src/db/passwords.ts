import type { Db } from "./pool";

/** Makes the one link by which somebody sets their password; earlier ones of theirs stop working. */
export const putPasswordLink = (db: Db, hash: Buffer, person: string, hours: number) =>
  db.query(
    `
      insert into password_link (token_hash, person_id, expires_at)
      values ($1, $2, now() + make_interval(hours => $3))
      on conflict (person_id) do update
      set token_hash = excluded.token_hash, made_at = now(), expires_at = excluded.expires_at
    `,
    [hash, person, hours],
  );

/** Whose link it is, while it can be used. */
export async function personOfLink(db: Db, hash: Buffer): Promise<{ id: string; name: string } | null> {
  const { rows } = await db.query(
    `
      select p.id, p.name
      from password_link l join person p on p.id = l.person_id
      where l.token_hash = $1 and l.expires_at > now() and p.active
    `,
    [hash],
  );
  return rows[0] ?? null;
}
/** Uses a link up; only one of two who try at once gets its person. */
export async function useLink(db: Db, hash: Buffer): Promise<string | null> {
  const { rows } = await db.query(
    "delete from password_link where token_hash = $1 and expires_at > now() returning person_id",
    [hash],
  );
  return rows[0]?.person_id ?? null;
}
export const sweepLinks = (db: Db) => db.query("delete from password_link where expires_at < now()");

export const setPassword = (db: Db, person: string, hash: string) =>
  db.query("update person set password_hash = $2 where id = $1 and kind = 'person'", [person, hash]);
export const dropLink = (db: Db, person: string) =>
  db.query("delete from password_link where person_id = $1", [person]);
