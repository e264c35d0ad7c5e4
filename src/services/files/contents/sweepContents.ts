import { contents, getPool, inTransaction } from "@/db";
import { defineView } from "../../kernel/defineUseCase";
import { mustHaveFolder } from "./folderNow";

/** Contents looked for at once. */
const BATCH = 200;

/** Removes what no file has any more; how many contents went. */
export const sweepContents = defineView(["run jobs"], async (c): Promise<number> => {
  if (!c.may({ action: "run jobs" })) return 0;
  let gone = 0;
  let after = "";
  for (;;) {
    const unused = await contents.unusedContents(getPool(), after, BATCH);
    for (const sha256 of unused) if (await removeUnused(sha256)) gone++;
    const last = unused.at(-1);
    if (last === undefined) return gone;
    after = last;
  }
});

const removeUnused = (sha256: string): Promise<boolean> =>
  inTransaction(async (tx) => {
    // Held first, and asked then: whoever adds a file of the same waits, and keeps it anew.
    const row = await contents.lockContent(tx, sha256);
    if (!row || (await contents.isUsed(tx, sha256))) return false;
    // Before its row goes: where this is stopped in between, a row without a file in the folder is left, and nobody has it.
    if (row.place === "folder") await mustHaveFolder().remove(sha256);
    await contents.removeContent(tx, sha256);
    return true;
  });
