import type { Db } from "./pool";

export interface ApiKeyRow {
  id: string;
  person_id: string;
  label: string;
  created_by: string;
  created_at: number;
  last_used_at: number | null;
  revoked_at: number | null;
}
export const listKeys = async (db: Db): Promise<ApiKeyRow[]> =>
  (
    await db.query(
      `
        select id, person_id, label, created_by, created_at, last_used_at, revoked_at
        from api_key
        order by id desc
      `,
    )
  ).rows;
export async function insertKey(
  db: Db,
  hash: Buffer,
  person: string,
  label: string,
  by: string,
  at: string,
): Promise<string> {
  const { rows } = await db.query(
    `
      insert into api_key (token_hash, person_id, label, created_by, created_at)
      values ($1, $2, $3, $4, $5)
      returning id
    `,
    [hash, person, label, by, at],
  );
  return rows[0].id;
}
export const revokeKey = async (db: Db, id: string, at: string): Promise<boolean> =>
  ((await db.query("update api_key set revoked_at = $2 where id = $1 and revoked_at is null", [id, at]))
    .rowCount ?? 0) > 0;
/** Who a key acts as; with the directory's version, since whoever asks needs the directory next. One round trip. */
export async function personOfKey(
  db: Db,
  hash: Buffer,
): Promise<{ id: string; person: string; directoryVersion: string } | null> {
  const { rows } = await db.query({
    name: "person-of-key",
    text: `
      select
        k.id,
        k.person_id,
        k.last_used_at,
        (
          select value #>> '{}'
          from setting
          where key = 'directory_version'
        ) as directory_version,
        (
          select value #>> '{}'
          from setting
          where key = 'clock_offset'
        ) as clock_offset
      from api_key k join person p on p.id = k.person_id
      where k.token_hash = $1 and k.revoked_at is null and p.active
    `,
    values: [hash],
  });
  const key = rows[0];
  if (!key) return null;
  const now = Date.now() + Number(key.clock_offset ?? 0);
  // To the minute is enough, and keeps many calls by one key from waiting for each other's row.
  if (key.last_used_at === null || key.last_used_at < now - 60_000)
    await db.query("update api_key set last_used_at = $2 where id = $1", [
      key.id,
      new Date(now).toISOString(),
    ]);
  return { id: key.id, person: key.person_id, directoryVersion: key.directory_version };
}

/** All keys of somebody stop working for good; how many did work. */
export const revokeKeysOf = async (db: Db, person: string, at: string): Promise<number> =>
  (
    await db.query("update api_key set revoked_at = $2 where person_id = $1 and revoked_at is null", [
      person,
      at,
    ])
  ).rowCount ?? 0;
