import type { Db } from "./pool";

/** Keeps a picture; one that is there already stays. */
export const keepPicture = async (db: Db, hash: string, bytes: Buffer): Promise<void> =>
  void (await db.query("insert into picture (hash, bytes) values ($1, $2) on conflict do nothing", [
    hash,
    bytes,
  ]));

export const pictureBytes = async (db: Db, hash: string): Promise<Buffer | null> =>
  (await db.query("select bytes from picture where hash = $1", [hash])).rows[0]?.bytes ?? null;
