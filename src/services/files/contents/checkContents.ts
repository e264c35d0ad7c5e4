import { createHash } from "node:crypto";
import { contents, getPool } from "@/db";
import { Damaged, NotThere } from "@/outside/folder";
import { defineView } from "../../kernel/defineUseCase";
import { contentParts } from "./readContent";

const BATCH = 200;

export interface Checked {
  contents: number;
  bytes: number;
  /** Fingerprints of what is not what it was, or not there. */
  damaged: string[];
}

/** Reads all that is in files and holds it against its fingerprint. */
export const checkContents = defineView(["run jobs"], async (c): Promise<Checked> => {
  const done: Checked = { contents: 0, bytes: 0, damaged: [] };
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
