import {
  flatFields,
  type Field,
  type FileFacts,
  type FormData,
  type Registers,
  type StoredRecord,
} from "@/core/form";
import { KINDS } from "@/kinds";
import { files, type Db, type FileRow } from "@/db";

/**
 * Which files a form may hold: those of its request, those that records keep where it is asked for, and those these people
 * added and have not sent yet.
 */
export interface FileReach {
  request: string | null;
  by: readonly string[];
  ofRecords?: true;
}
/** Whether a file is one of those. */
export const reaches = ({ request, by, ofRecords }: FileReach, r: FileRow): boolean => {
  if (r.record) return ofRecords === true;
  return r.request_id === null ? by.includes(r.added_by) : r.request_id === request;
};

export const fileFactsOf = (r: FileRow): FileFacts => ({
  id: r.id,
  name: r.name,
  size: r.size,
  type: r.media_type,
  at: r.added_at,
});

const holdsFile = (f: Field) => KINDS.fields[f.kind].idOf === "file";

/** Ids of all files that a form's values name. */
export function filesNamed(fields: readonly Field[], ...datas: readonly FormData[]): string[] {
  const out = new Set<string>();
  const take = (v: unknown) => void (typeof v === "string" && v !== "" && out.add(v));
  for (const f of flatFields(fields))
    for (const data of datas) {
      const v = data[f.id];
      if (holdsFile(f)) take(v);
      else if (f.kind === "lines" && Array.isArray(v))
        for (const c of f.fields ?? []) if (holdsFile(c)) for (const row of v) take(row[c.id]);
    }
  return [...out];
}

/** Ids of all files that records keep in their columns. */
export function filesOfRecords(
  registers: Registers,
  records: Readonly<Record<string, Readonly<Record<string, StoredRecord>>>>,
): string[] {
  return Object.entries(records).flatMap(([key, rows]) => {
    const columns = (registers[key]?.columns ?? []).filter((c) => KINDS.fields[c.kind].idOf === "file");
    if (columns.length === 0) return [];
    return Object.values(rows).flatMap((r) =>
      columns.flatMap((c) => (typeof r[c.id] === "string" && r[c.id] !== "" ? [String(r[c.id])] : [])),
    );
  });
}

/** What is known of the files a form names, as far as it may hold them. */
export async function loadFileFacts(
  db: Db,
  ids: readonly string[],
  reach: FileReach,
): Promise<Record<string, FileFacts>> {
  if (ids.length === 0) return {};
  const rows = await files.filesByIds(db, ids);
  return Object.fromEntries(rows.filter((r) => reaches(reach, r)).map((r) => [r.id, fileFactsOf(r)]));
}
