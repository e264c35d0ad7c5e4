import { contents, getPool, inTransaction, type ContentPlace } from "@/db";
import { Damaged, NotThere } from "@/outside/folder";
import { defineView } from "../../kernel/defineUseCase";
import { mustHaveFolder } from "./folderNow";
import { checked } from "./checkContents";
import { insertParts } from "./keepContent";
import { partsFrom } from "./readContent";

const BATCH = 200;

export interface Moved {
  /** Contents that were moved, and what they have together in bytes. */
  moved: number;
  bytes: number;
  /** Fingerprints of what stayed, because it is not what it was. */
  damaged: string[];
}

/**
 * Moves what is in files to the folder, or from there into the database, one after the other, each held against its
 * fingerprint first; files can be added and opened meanwhile. Done again, it goes on where it was stopped.
 */
export const moveContents = defineView(["run jobs"], async (c, to: ContentPlace): Promise<Moved> => {
  const done: Moved = { moved: 0, bytes: 0, damaged: [] };
  if (!c.may({ action: "run jobs" })) return done;
  const from = to === "folder" ? "database" : "folder";
  let after = "";
  for (;;) {
    const batch = await contents.contentsAfter(getPool(), after, BATCH, from);
    for (const { sha256 } of batch) {
      const came = await moveOne(sha256, to);
      if (came === "damaged") done.damaged.push(sha256);
      else if (came !== null) {
        done.moved++;
        done.bytes += came;
      }
    }
    const last = batch.at(-1);
    if (last === undefined) return done;
    after = last.sha256;
  }
});

/** @returns how many bytes went; null where there was nothing to do */
async function moveOne(sha256: string, to: ContentPlace): Promise<number | "damaged" | null> {
  try {
    const size = await inTransaction(async (tx) => {
      const row = await contents.lockContent(tx, sha256);
      if (!row || row.place === to) return null;
      const parts = () => checked(sha256, partsFrom(row, 0));
      if (to === "folder") {
        await mustHaveFolder().put(sha256, row.size, parts());
        await contents.removeParts(tx, sha256);
      } else await insertParts(tx, { sha256, parts });
      await contents.setPlace(tx, sha256, to);
      return row.size;
    });
    if (to === "database" && size !== null) await clearBehind(sha256);
    return size;
  } catch (e) {
    if (e instanceof Damaged || e instanceof NotThere) return "damaged";
    throw e;
  }
}

/** What was moved into the database goes from the folder, unless it is there anew by now. */
const clearBehind = (sha256: string): Promise<void> =>
  inTransaction(async (tx) => {
    const row = await contents.lockContent(tx, sha256);
    if (row?.place === "database") await mustHaveFolder().remove(sha256);
  });
