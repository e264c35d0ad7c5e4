import type { FileFacts } from "@/core/form";
import { files, type Db, type FileRow } from "@/db";

/**
 * Which files a form may hold: those of its request, those that records keep where it is asked for, and those these people
 * added and have not sent yet.
 */
export interface FileReach {
  request: string | null;
  by: readonly string[];
  ofRecords?: true;
  /** A mail that belongs to no request yet: what came with it. */
  mail?: string;
  /** Copies that were made for it, by their ids: what came with a mail, or was drawn up, nobody added. */
  copies?: readonly string[];
}
/** Whether a file is one of those. */
export const reaches = ({ request, by, ofRecords, mail, copies }: FileReach, r: FileRow): boolean => {
  if (copies?.includes(r.id)) return true;
  if (mail !== undefined && r.message_id === mail) return true;
  if (r.record) return ofRecords === true;
  return r.request_id === null ? r.added_by !== null && by.includes(r.added_by) : r.request_id === request;
};

export const fileFactsOf = (r: FileRow): FileFacts => ({
  id: r.id,
  name: r.name,
  size: r.size,
  type: r.media_type,
  at: r.added_at,
});

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
