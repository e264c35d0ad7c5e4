import type { Client, Db } from "./pool";

/** Where the bytes of something are. */
export type ContentPlace = "database" | "folder";
/** What is in files, told by its fingerprint: SHA-256 in hexadecimal. */
export interface ContentRow {
  sha256: string;
  size: number;
  place: ContentPlace;
}

/** Bytes of a part; the last may have fewer. */
export const PART_BYTES = 1_000_000;

const COLUMNS = "encode(sha256, 'hex') as sha256, size::float8 as size, place";

/**
 * Has contents known, and holds them until the transaction ends: nobody removes or moves them meanwhile. Where they are
 * known already they stay where they are.
 */
export const holdContent = async (
  db: Client,
  c: ContentRow,
): Promise<{ place: ContentPlace; known: boolean }> =>
  (
    await db.query(
      // An update that changes nothing locks the row, and waits for whoever is removing it.
      `
        insert into content (sha256, size, place)
        values (decode($1, 'hex'), $2, $3)
        on conflict (sha256) do update set size = content.size
        returning place, xmax <> 0 as known
      `,
      [c.sha256, c.size, c.place],
    )
  ).rows[0]!;

export const contentOf = async (db: Db, sha256: string): Promise<ContentRow | null> =>
  (await db.query(`select ${COLUMNS} from content where sha256 = decode($1, 'hex')`, [sha256])).rows[0] ??
  null;
/** The same, held until the transaction ends. */
export const lockContent = async (db: Client, sha256: string): Promise<ContentRow | null> =>
  (await db.query(`select ${COLUMNS} from content where sha256 = decode($1, 'hex') for update`, [sha256]))
    .rows[0] ?? null;

export const insertPart = (db: Client, sha256: string, nth: number, bytes: Buffer) =>
  db.query("insert into content_part (sha256, nth, bytes) values (decode($1, 'hex'), $2, $3)", [
    sha256,
    nth,
    bytes,
  ]);
/** Null where there is none of that number, or no more. */
export const partOf = async (db: Db, sha256: string, nth: number): Promise<Buffer | null> =>
  (
    await db.query("select bytes from content_part where sha256 = decode($1, 'hex') and nth = $2", [
      sha256,
      nth,
    ])
  ).rows[0]?.bytes ?? null;
export const removeParts = (db: Client, sha256: string) =>
  db.query("delete from content_part where sha256 = decode($1, 'hex')", [sha256]);

export const setPlace = (db: Client, sha256: string, place: ContentPlace) =>
  db.query("update content set place = $2 where sha256 = decode($1, 'hex')", [sha256, place]);

/** Contents behind one in the order of their fingerprints, all or those in one place. */
export const contentsAfter = async (
  db: Db,
  after: string,
  most: number,
  place: ContentPlace | null = null,
): Promise<ContentRow[]> =>
  (
    await db.query(
      `
        select ${COLUMNS} from content
        where content.sha256 > decode($1, 'hex') and ($2::text is null or place = $2)
        order by content.sha256
        limit $3
      `,
      [after, place, most],
    )
  ).rows;

/** Which of these are kept in the folder. */
export const inFolder = async (db: Db, prints: readonly string[]): Promise<string[]> =>
  (
    await db.query(
      `
        select encode(c.sha256, 'hex') as sha256
        from unnest($1::text[]) as p (print) join content c on c.sha256 = decode(p.print, 'hex')
        where c.place = 'folder'
      `,
      [prints],
    )
  ).rows.map((r) => r.sha256);
/** Fingerprints of contents that no file has, behind one. */
export const unusedContents = async (db: Db, after: string, most: number): Promise<string[]> =>
  (
    await db.query(
      `
        select encode(c.sha256, 'hex') as sha256
        from content c
        where c.sha256 > decode($1, 'hex') and not exists (select from file f where f.sha256 = c.sha256)
        order by c.sha256
        limit $2
      `,
      [after, most],
    )
  ).rows.map((r) => r.sha256);
export const isUsed = async (db: Client, sha256: string): Promise<boolean> =>
  (await db.query("select exists (select from file where sha256 = decode($1, 'hex')) as used", [sha256]))
    .rows[0]!.used;
export const removeContent = (db: Client, sha256: string) =>
  db.query("delete from content where sha256 = decode($1, 'hex')", [sha256]);

/** What contents come to in bytes, each once, by where they are. */
export const contentSizes = async (db: Db): Promise<{ place: ContentPlace; bytes: number }[]> =>
  (await db.query("select place, sum(size)::float8 as bytes from content group by place order by place"))
    .rows;
