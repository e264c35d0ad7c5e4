import { files, getPool } from "@/db";
import type { OutMail } from "@/outside/mail";
import { contentBytes } from "../files/contents/readContent";

/** What a mail carries at most, of all its files together. */
export const MOST_FILES_MB = 20;

/** The files a mail carries; a sentence where that is too much, or one is gone. */
export async function attachments(ids: readonly string[]): Promise<OutMail["files"] | string> {
  if (ids.length === 0) return [];
  const db = getPool();
  const rows = await files.filesByIds(db, ids);
  const size = rows.reduce((n, f) => n + f.size, 0);
  if (size > MOST_FILES_MB * 1_000_000)
    return `Its files have ${Math.ceil(size / 1_000_000)} MB; a mail carries at most ${MOST_FILES_MB} MB.`;
  const out: OutMail["files"][number][] = [];
  for (const id of ids) {
    const row = rows.find((f) => f.id === id);
    if (!row) return "One of its files is not there any more.";
    out.push({ name: row.name, type: row.media_type, content: await contentBytes(row.sha256) });
  }
  return out;
}
