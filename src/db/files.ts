import type { Db } from "./pool";

export interface FileRow {
  id: string;
  name: string;
  media_type: string;
  size: number;
  added_at: number;
  /** Null for what came with a mail, and what was drawn up. */
  added_by: string | null;
  request_id: string | null;
  /** The mail it came with; null for none. */
  message_id: string | null;
  /** Of its contents, in hexadecimal. */
  sha256: string;
  /** The record that keeps it; null for one that went with a request, or with nothing yet. */
  record: { register: string; id: string } | null;
}
const COLUMNS = `id, name, media_type, size, added_at, added_by, request_id, message_id::text as message_id, encode(sha256, 'hex') as sha256,
  case
    when register_key is not null then json_build_object('register', register_key, 'id', record_id::text)
  end as record`;
/** Nobody's yet but whoever's who added it. */
const LOOSE = "request_id is null and register_key is null and message_id is null";

export interface NewFile {
  id: string;
  name: string;
  mediaType: string;
  /** Of contents that are kept, in hexadecimal. */
  sha256: string;
  size: number;
  at: string;
  /** Who added it; null for what came with a mail, and what was drawn up. */
  by: string | null;
  request: string | null;
  /** The mail it came with. */
  message: string | null;
}
/** Keeps what is known of a file, whose contents are kept already; nothing where one of its id is. */
export const insertFile = (db: Db, f: NewFile) =>
  db.query(
    `
      insert into file (id, name, media_type, size, sha256, added_at, added_by, request_id, message_id)
      values ($1, $2, $3, $4, decode($5, 'hex'), $6, $7, $8, $9)
      on conflict do nothing
    `,
    [f.id, f.name, f.mediaType, f.size, f.sha256, f.at, f.by, f.request, f.message],
  );
export const fileById = async (db: Db, id: string): Promise<FileRow | null> =>
  (await db.query(`select ${COLUMNS} from file where id = $1`, [id])).rows[0] ?? null;
/** All files of a request, the oldest first. */
export const ofRequest = async (db: Db, request: string): Promise<FileRow[]> =>
  (await db.query(`select ${COLUMNS} from file where request_id = $1 order by added_at, id`, [request])).rows;
/**
 * Ids of requests of a process that ended before a moment and have files from before it, in the order of their ids.
 * Those of which something is still on its way wait, since that may carry them.
 */
export const requestsWithFiles = async (
  db: Db,
  q: { process: string; endedBefore: string; after: string; most: number },
): Promise<string[]> =>
  (
    await db.query(
      `
        select r.id::text as id
        from request r
        where
          r.process_key = $1
          and r.ended_at < $2
          and r.id > $3
          and exists (select 1 from file f where f.request_id = r.id and f.added_at < $2)
          and not exists (
            select 1
            from message m
            where m.request_id = r.id and m.direction = 'out' and m.state in ('waiting', 'sending', 'given', 'stuck')
          )
        order by r.id
        limit $4
      `,
      [q.process, q.endedBefore, q.after, q.most],
    )
  ).rows.map((r) => r.id);
/** Removes files of a request that came before a moment, but for some; how many went, and what they came to in bytes. */
export const removeOfRequest = async (
  db: Db,
  request: string,
  before: string,
  but: readonly string[],
): Promise<{ count: number; bytes: number }> =>
  (
    await db.query(
      `
        with gone as (
          delete from file
          where request_id = $1 and register_key is null and added_at < $2 and id <> all($3)
          returning size
        )
        select count(*)::int as count, coalesce(sum(size), 0)::float8 as bytes
        from gone
      `,
      [request, before, but],
    )
  ).rows[0]!;
export const filesByIds = async (db: Db, ids: readonly string[]): Promise<FileRow[]> =>
  (await db.query(`select ${COLUMNS} from file where id = any($1)`, [ids])).rows;
/** A picture made small, where that was tried; its bytes are null where it is none. */
export const smallOf = async (db: Db, id: string): Promise<{ bytes: Buffer | null } | null> =>
  (await db.query("select bytes from file_small where file_id = $1", [id])).rows[0] ?? null;
/** Keeps it; nothing where the file has gone meanwhile, or somebody else was quicker. */
export const keepSmall = (db: Db, id: string, bytes: Buffer | null) =>
  db.query(
    "insert into file_small (file_id, bytes) select id, $2 from file where id = $1 on conflict do nothing",
    [id, bytes],
  );
/** What somebody adds is added one after the other, until the transaction ends. */
export const lockLoose = (db: Db, by: string) =>
  db.query("select pg_advisory_xact_lock(hashtextextended($1, 8))", [`loose ${by}`]);
/** Bytes of the files one person added and has not sent. */
export const looseBytes = async (db: Db, by: string): Promise<number> =>
  Number(
    (
      await db.query(`select coalesce(sum(size), 0) as bytes from file where ${LOOSE} and added_by = $1`, [
        by,
      ])
    ).rows[0].bytes,
  );
/** Gives loose files of one person to a request; how many of them went. */
export const attachFiles = async (
  db: Db,
  ids: readonly string[],
  by: string,
  request: string,
): Promise<number> =>
  (
    await db.query(`update file set request_id = $3 where id = any($1) and ${LOOSE} and added_by = $2`, [
      ids,
      by,
      request,
    ])
  ).rowCount ?? 0;

/**
 * Copies files of one request for another that is to come; loose until then. A file belongs to one request alone, because
 * that one's rights say who opens it, and that one's end when it is forgotten.
 * @param copies the id of each copy by that of its original
 */
export const copyFiles = async (
  db: Db,
  copies: ReadonlyMap<string, string>,
  from: string,
): Promise<string[]> =>
  (
    await db.query(
      `
        with
          wanted as (
            select *
            from unnest($1::text[], $2::text[]) as w (old, new)
          ),
          made as (
            insert into file (id, name, media_type, size, sha256, added_at, added_by)
            select w.new, f.name, f.media_type, f.size, f.sha256, f.added_at, f.added_by
            from wanted w join file f on f.id = w.old and f.request_id = $3
            returning id
          )
        select id from made
      `,
      [[...copies.keys()], [...copies.values()], from],
    )
  ).rows.map((r) => r.id);
/** Copies files for records that are to keep them; loose until then. Whether they may is the caller's to ask. */
export async function copyForRecords(db: Db, copies: readonly { from: string; to: string }[]): Promise<void> {
  if (copies.length === 0) return;
  await db.query(
    `
      with
        wanted as (
          select *
          from unnest($1::text[], $2::text[]) as w (old, new)
        )
      insert into file (id, name, media_type, size, sha256, added_at, added_by)
      select w.new, f.name, f.media_type, f.size, f.sha256, f.added_at, f.added_by
      from wanted w join file f on f.id = w.old
    `,
    [copies.map((c) => c.from), copies.map((c) => c.to)],
  );
}

/** Gives copies to the request they were made for. */
export const giveFiles = (db: Db, ids: readonly string[], request: string) =>
  db.query(`update file set request_id = $2 where id = any($1) and ${LOOSE}`, [ids, request]);

/** Files as they are, held until the transaction ends: whoever else would keep one of them waits. */
export const holdFiles = async (db: Db, ids: readonly string[]): Promise<FileRow[]> =>
  (await db.query(`select ${COLUMNS} from file where id = any($1) order by id for update`, [ids])).rows;
/** Has records of a register keep files. Whether they may is the caller's to ask, with the files held. */
export const keepFiles = (db: Db, register: string, kept: readonly { file: string; record: string }[]) =>
  db.query(
    `
      update file f
      set register_key = $1, record_id = k.record
      from unnest($2::text[], $3::bigint[]) as k (file, record)
      where f.id = k.file
    `,
    [register, kept.map((k) => k.file), kept.map((k) => k.record)],
  );

/**
 * Removes files nobody sent: loose, older than given, and named by no kept form, draft or release.
 * How many went.
 */
export const removeLoose = async (db: Db, before: string): Promise<number> =>
  (
    await db.query(
      `
        delete from file f
        where
          f.request_id is null
          and f.register_key is null
          and f.message_id is null
          and f.added_at < $1
          and not exists (
            select 1
            from form_draft d
            where position(f.id in d.data::text) > 0
          )
          and not exists (
            select 1
            from process_draft d
            where position(f.id in d.definition::text) > 0
          )
          and not exists (
            select 1
            from process_release r
            where position(f.id in r.definition::text) > 0
          )
      `,
      [before],
    )
  ).rowCount ?? 0;
