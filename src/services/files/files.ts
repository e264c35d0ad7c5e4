import { randomBytes } from "node:crypto";
import { lookup } from "mime-types";
import { MAX_FILE_MB, megabytes, type FileFacts, type RecordRef } from "@/core/form";
import { at, files, getPool, inTransaction, registers, type Client, type FileRow } from "@/db";
import { KINDS } from "@/kinds";
import { nowMs } from "../kernel/clock";
import { loadDirectory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { registerFor } from "../kernel/registersSeen";
import { keepContent, prepareContent } from "./contents/keepContent";
import { contentBytes, contentParts } from "./contents/readContent";
import { spooled, type Spooled } from "./contents/spool";
import { fileFactsOf } from "./fileFacts";
import { idsIn } from "../kernel/idsNamed";
import { smallPicture } from "./smallPicture";
import { inSight } from "./inSight";
import { loadRequest } from "../requests/loadRequest";
import { defineUseCase, defineView, type Call } from "../kernel/defineUseCase";

/** Bytes one person may have added to forms they have not sent. */
const MAX_LOOSE_MB = 500;
/** Days after which a file that was added and never sent is removed. */
const LOOSE_DAYS = 30;

export const MAX_FILE_BYTES = MAX_FILE_MB * 1_000_000;

/** A name as it is kept: without folders and control characters, at most 200 characters with its ending. */
export function tidyFileName(name: string): string {
  const plain = (name.split(/[\\/]/).at(-1) ?? "")
    .replace(/[\u0000-\u001f\u007f\u202a-\u202e\u2066-\u2069]/g, "")
    .trim();
  if (plain.length <= 200) return plain;
  const ending = /\.[^.]{1,10}$/.exec(plain)?.[0] ?? "";
  return plain.slice(0, 200 - ending.length) + ending;
}

/**
 * Takes a file in. It belongs to nobody's request until a form that names it is sent.
 * @param when epoch milliseconds; seeding passes its own clock
 */
export const addFile = defineUseCase(
  ["add file"],
  async (c, name: string, contents: Buffer | Spooled, when?: number): Promise<FileFacts> => {
    c.must({ action: "add file" }, { code: "not-allowed", data: { action: "add a file" } });
    const came = Buffer.isBuffer(contents) ? spooled(contents) : contents;
    await prepareContent(came);
    return inTransaction((db) =>
      keepLoose(db, c.actor.id, { name, contents: came, when, most: MAX_LOOSE_MB }),
    );
  },
);

interface Adding {
  name: string;
  contents: Spooled;
  /** Epoch milliseconds; now where it is not said. */
  when?: number | undefined;
  /** MB of all files of theirs that are not sent. */
  most: number;
}
/** Keeps a file somebody added, in the caller's transaction. @throws Failed with what is wrong with it */
export async function keepLoose(
  db: Client,
  by: string,
  { name, contents, when, most }: Adding,
): Promise<FileFacts> {
  const { size, sha256 } = contents;
  const refuse = (message: string) => new Failed({ code: "invalid", data: { path: "", message } });
  const tidy = tidyFileName(name);
  if (!tidy) throw refuse("The file needs a name, for example quote.pdf.");
  if (size === 0) throw refuse(`"${tidy}" is empty.`);
  if (size > MAX_FILE_BYTES)
    throw refuse(`Files may have up to ${MAX_FILE_MB} MB; "${tidy}" has ${megabytes(size)} MB.`);
  const id = randomBytes(18).toString("base64url");
  const mediaType = lookup(tidy) || "application/octet-stream";
  // First, because it takes long where it is large: only who adds the same waits for it.
  await keepContent(db, contents);
  // Two at once could otherwise both find room for one.
  await files.lockLoose(db, by);
  if ((await files.looseBytes(db, by)) + size > most * 1_000_000)
    throw refuse(
      `You have added ${most} MB of files to forms that are not sent yet. Send or throw away one of those first.`,
    );
  const now = when ?? (await nowMs(db));
  const of = { by, request: null, message: null };
  await files.insertFile(db, { id, name: tidy, mediaType, sha256, size, at: at(now)!, ...of });
  return { id, name: tidy, size, type: mediaType, at: now };
}

/** A file with its contents, read as they are taken. */
export interface OpenedFile {
  file: FileFacts;
  parts: AsyncIterable<Buffer>;
}

/** A file with its contents, for whoever may see the field it stands in; before it is sent, for who added it. */
export const openFile = defineUseCase(
  ["read file", "see request"],
  async (c, id: string): Promise<OpenedFile> => {
    const row = await mustRead(c, id);
    return { file: fileFactsOf(row), parts: contentParts(row.sha256) };
  },
);

/** A picture among files as a small one, WebP, for whoever may read it. Others are refused as what cannot be shown. */
export const readSmall = defineUseCase(
  ["read file", "see request"],
  async (c, id: string): Promise<{ file: FileFacts; bytes: Buffer }> => {
    const row = await mustRead(c, id);
    const db = getPool();
    const kept = await files.smallOf(db, id);
    const made = kept
      ? (kept.bytes ?? "none")
      : await smallPicture(row.media_type, row.size, () => contentBytes(row.sha256));
    const bytes = typeof made === "string" ? null : made;
    if (!kept && made !== "not now") await files.keepSmall(db, id, bytes);
    if (!bytes)
      throw new Failed({
        code: "invalid",
        data: { path: "", message: `"${row.name}" is no picture that can be shown.` },
      });
    const name = `${row.name}.webp`;
    return { file: { ...fileFactsOf(row), name, type: "image/webp", size: bytes.length }, bytes };
  },
);

/** @throws Failed where there is no such file, or none for whoever asks */
async function mustRead(c: Call, id: string): Promise<FileRow> {
  const row = await files.fileById(getPool(), id);
  const shown = row ? await isShown(c, row) : false;
  const loose = row?.request_id === null && row.record === null && row.added_by !== null;
  if (!row || !c.may({ action: "read file", addedBy: row.added_by ?? "", loose, shown }))
    throw new Failed({ code: "not-found", data: { what: "file", id } });
  return row;
}

async function isShown(c: Call, { id, record, request_id }: FileRow): Promise<boolean> {
  if (record) return standsInRecord(c, record, id);
  return request_id !== null && standsInSight(c, request_id, id);
}

/** Whether a file stands, as it is now, in a column of a record that whoever asks sees. */
async function standsInRecord(c: Call, of: RecordRef, id: string): Promise<boolean> {
  const shape = registerFor(await loadDirectory(getPool()), c.actor, of.register);
  if (!shape) return false;
  const [record] = await registers.recordsByIds(getPool(), shape, [of.id]);
  return shape.columns.some(
    (x) => KINDS.fields[x.kind].idOf === "file" && idsIn(x, record?.[x.id]).includes(id),
  );
}

/** Whether it stands in what whoever asks sees of a request; of one they do not see nothing does. */
async function standsInSight(c: Call, request: string, id: string): Promise<boolean> {
  try {
    return (await inSight(c, await loadRequest(c, { id: request }), [id])).has(id);
  } catch (e) {
    if (e instanceof Failed) return false;
    throw e;
  }
}

/** Removes what was added and never sent, after a month; how many files went. */
export const sweepFiles = defineView(["run jobs"], async (c): Promise<number> => {
  if (!c.may({ action: "run jobs" })) return 0;
  const db = getPool();
  return files.removeLoose(db, at((await nowMs(db)) - LOOSE_DAYS * 86_400_000)!);
});
