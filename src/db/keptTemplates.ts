import type { DocumentTag, TemplateFile } from "@/core/document";
import { at, type Db } from "./pool";

export interface KeptTemplateRow {
  id: string;
  name: string;
  version: number;
  file: TemplateFile;
  tags: DocumentTag[];
  process_key: string | null;
  by_person: string | null;
  at: number;
}

const COLUMNS = `k.id, k.name, k.version, k.tags, k.process_key, k.by_person, k.at,
  json_build_object('sha256', encode(k.sha256, 'hex'), 'name', k.file_name, 'size', f.size) as file`;

/** What is told of them where one is to be chosen. */
export const keptTemplateNames = async (
  db: Db,
): Promise<Pick<KeptTemplateRow, "id" | "name" | "version">[]> =>
  (await db.query("select id, name, version from kept_template k order by lower(name), k.id")).rows;

export const keptTemplates = async (db: Db): Promise<KeptTemplateRow[]> =>
  (
    await db.query(
      `select ${COLUMNS} from kept_template k join template_file f using (sha256) order by lower(k.name), k.id`,
    )
  ).rows;

/** Locked until the end of the transaction. */
export const keptTemplate = async (db: Db, id: string): Promise<KeptTemplateRow | null> =>
  (
    await db.query(
      `select ${COLUMNS} from kept_template k join template_file f using (sha256) where k.id = $1 for update of k`,
      [id],
    )
  ).rows[0] ?? null;

/** Puts one in its place, as its next version; a new one is its first. @returns which version it is */
export const putKeptTemplate = async (db: Db, k: Omit<KeptTemplateRow, "version">): Promise<number> =>
  (
    await db.query(
      `
        insert into
          kept_template as k (id, name, version, sha256, file_name, tags, process_key, by_person, at)
        values ($1, $2, 1, decode($3, 'hex'), $4, $5, $6, $7, $8)
        on conflict (id) do update
        set
          name = excluded.name,
          version = k.version + 1,
          sha256 = excluded.sha256,
          file_name = excluded.file_name,
          tags = excluded.tags,
          process_key = excluded.process_key,
          by_person = excluded.by_person,
          at = excluded.at
        returning version
      `,
      [
        k.id,
        k.name,
        k.file.sha256,
        k.file.name,
        JSON.stringify(k.tags),
        k.process_key,
        k.by_person,
        at(k.at),
      ],
    )
  ).rows[0].version;

export const removeKeptTemplate = async (db: Db, id: string): Promise<boolean> =>
  ((await db.query("delete from kept_template where id = $1", [id])).rowCount ?? 0) === 1;

/** By kept template the processes whose drafts have taken it, as which version. */
export const keptTemplatesTaken = async (
  db: Db,
): Promise<{ of: string; version: number; key: string; name: string }[]> =>
  (
    await db.query(`
      select
        t -> 'from' ->> 'template' as of,
        (t -> 'from' ->> 'version')::int as version,
        d.process_key as key,
        d.definition ->> 'name' as name
      from process_draft d, jsonb_array_elements(coalesce(d.definition -> 'documents', '[]')) t
      where t -> 'from' is not null
      order by lower(d.definition ->> 'name')
    `)
  ).rows;
