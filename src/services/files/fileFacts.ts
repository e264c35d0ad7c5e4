import { flatFields, type Field, type FileFacts, type FormData } from "@/core/form";
import { KINDS } from "@/kinds";
import { files, type Db, type FileRow } from "@/db";

/** Which files a form may hold: those of its request, and those these people added and have not sent yet. */
export interface FileReach {
  request: string | null;
  by: readonly string[];
}

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

/** What is known of the files a form names, as far as it may hold them. */
export async function loadFileFacts(
  db: Db,
  ids: readonly string[],
  reach: FileReach,
): Promise<Record<string, FileFacts>> {
  if (ids.length === 0) return {};
  const rows = await files.filesByIds(db, ids);
  return Object.fromEntries(
    rows
      .filter((r) => (r.request_id === null ? reach.by.includes(r.added_by) : r.request_id === reach.request))
      .map((r) => [r.id, fileFactsOf(r)]),
  );
}
