import { createHash } from "node:crypto";
import { rm } from "node:fs/promises";
import { contents, getPool, inTransaction } from "@/db";
import { Damaged, NotThere } from "@/outside/folder";
import { defineView } from "../../kernel/defineUseCase";
import { folderNow } from "./folderNow";
import { contentParts } from "./readContent";

const BATCH = 200;
/** What nobody has written to for so long is no part of anything that is being done. */
const LEFT_MS = 3_600_000;

export interface Checked {
  contents: number;
  bytes: number;
  /** Fingerprints of what is not what it was, or not there. */
  damaged: string[];
  /** Files in the folder that belong to nothing, and were taken away. */
  cleared: number;
}

/** Reads all that is in files and holds it against its fingerprint; what lies in the folder and belongs to nothing goes. */
export const checkContents = defineView(["run jobs"], async (c): Promise<Checked> => {
  const done: Checked = { contents: 0, bytes: 0, damaged: [], cleared: 0 };
  if (!c.may({ action: "run jobs" })) return done;
  let after = "";
  for (;;) {
    const batch = await contents.contentsAfter(getPool(), after, BATCH);
    for (const { sha256, size } of batch) {
      done.contents++;
      done.bytes += size;
      if (!(await isWhole(sha256))) done.damaged.push(sha256);
    }
    const last = batch.at(-1);
    if (last === undefined) break;
    after = last.sha256;
  }
  for await (const { sha256, path } of folderNow()?.olderThan(LEFT_MS) ?? [])
    if (await clearUnknown(sha256, path)) done.cleared++;
  return done;
});

async function isWhole(sha256: string): Promise<boolean> {
  try {
    for await (const _ of contentParts(sha256));
    return true;
  } catch (e) {
    if (e instanceof Damaged) return false;
    // What went meanwhile is not missing.
    if (e instanceof NotThere) return (await contents.contentOf(getPool(), sha256)) === null;
    throw e;
  }
}

/** Its row is held, or made, while it is asked: whoever keeps the same just now has it, or comes after this. */
const clearUnknown = (sha256: string | null, path: string): Promise<boolean> =>
  inTransaction(async (tx) => {
    if (sha256 !== null) {
      const { place, known } = await contents.holdContent(tx, { sha256, size: 0, place: "folder" });
      if (known && place === "folder") return false;
      if (!known) await contents.removeContent(tx, sha256);
    }
    await rm(path, { force: true });
    return true;
  });

/** The same parts, held against a fingerprint before the last is given. @throws Damaged */
export async function* checked(sha256: string, parts: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  const hash = createHash("sha256");
  let last: Buffer | null = null;
  for await (const part of parts) {
    if (last) yield last;
    hash.update(part);
    last = part;
  }
  if (hash.digest("hex") !== sha256) throw new Damaged(sha256);
  if (last) yield last;
}
