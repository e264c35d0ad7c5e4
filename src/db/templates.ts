import type { DocumentTag } from "@/core/document";
import { at, type Db } from "./pool";

/** A file that was brought in as a template. */
export interface TemplateUploadRow {
  id: string;
  sha256: string;
  name: string;
  size: number;
  tags: DocumentTag[];
  by_person: string | null;
  at: number;
}

/** Keeps a file as the next version of a template; one that is there already is kept once. */
export async function keepTemplate(
  db: Db,
  u: Omit<TemplateUploadRow, "id" | "size"> & { process: string; document: string; bytes: Buffer },
): Promise<void> {
  await db.query(
    `
      insert into template_file (sha256, bytes, size) values (decode($1, 'hex'), $2, $3)
      on conflict do nothing
    `,
    [u.sha256, u.bytes, u.bytes.length],
  );
  await db.query(
    `
      insert into template_upload (process_key, document, sha256, name, tags, by_person, at)
      values ($1, $2, decode($3, 'hex'), $4, $5, $6, $7)
    `,
    [u.process, u.document, u.sha256, u.name, JSON.stringify(u.tags), u.by_person, at(u.at)],
  );
}

/** What was brought in as a template of a process, the newest first. */
export const templateUploads = async (
  db: Db,
  process: string,
  document: string,
  most: number,
): Promise<TemplateUploadRow[]> =>
  (
    await db.query(
      `
        select u.id::text as id, encode(u.sha256, 'hex') as sha256, u.name, f.size, u.tags, u.by_person, u.at
        from template_upload u join template_file f using (sha256)
        where u.process_key = $1 and u.document = $2
        order by u.id desc
        limit $3
      `,
      [process, document, most],
    )
  ).rows;

/** What is in a template; null where it is not here. */
export const templateBytes = async (db: Db, sha256: string): Promise<Buffer | null> =>
  (await db.query("select bytes from template_file where sha256 = decode($1, 'hex')", [sha256])).rows[0]
    ?.bytes ?? null;

/** The same where it was brought into this process. */
export const templateBytesOf = async (db: Db, process: string, sha256: string): Promise<Buffer | null> =>
  (
    await db.query(
      `
        select bytes
        from template_file f
        where
          sha256 = decode($2, 'hex')
          and exists (select 1 from template_upload u where u.sha256 = f.sha256 and u.process_key = $1)
      `,
      [process, sha256],
    )
  ).rows[0]?.bytes ?? null;

/** Which of these were never brought into a process. */
export const templatesMissing = async (db: Db, process: string, all: readonly string[]): Promise<string[]> =>
  (
    await db.query(
      `
        select w.sha as sha256
        from unnest($2::text[]) as w (sha)
        where
          not exists (
            select 1
            from template_upload u
            where u.process_key = $1 and u.sha256 = decode(w.sha, 'hex')
          )
      `,
      [process, all],
    )
  ).rows.map((r) => r.sha256);

/** Brings what was brought into one process into another, which is a copy of it. */
export const copyTemplates = (db: Db, from: string, to: string) =>
  db.query(
    `
      insert into template_upload (process_key, document, sha256, name, tags, by_person, at)
      select $2, document, sha256, name, tags, by_person, at
      from template_upload
      where process_key = $1
      order by id
    `,
    [from, to],
  );
