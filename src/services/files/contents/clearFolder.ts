import { contents, getPool, inTransaction } from "@/db";
import { defineView } from "../../kernel/defineUseCase";
import { folderNow, mustHaveFolder } from "./folderNow";

/** What nobody has written to for so long is no part of anything that is being done. */
const LEFT_MS = 3_600_000;

/**
 * Takes away what lies in the folder and belongs to nothing: what was prepared and then refused, and what a process that was
 * killed left. How many went.
 */
export const clearFolder = defineView(["run jobs"], async (c): Promise<number> => {
  const folder = folderNow();
  if (!c.may({ action: "run jobs" }) || !folder) return 0;
  let gone = await folder.clearComing(LEFT_MS);
  for await (const prints of folder.prints()) {
    const known = new Set(await contents.inFolder(getPool(), prints));
    for (const sha256 of prints)
      if (!known.has(sha256) && (await folder.isOlder(sha256, LEFT_MS)) && (await clearUnknown(sha256)))
        gone++;
  }
  return gone;
});

/** Its row is held, or made, while it is asked: whoever keeps the same just now has it, or comes after this. */
const clearUnknown = (sha256: string): Promise<boolean> =>
  inTransaction(async (tx) => {
    const { place, known } = await contents.holdContent(tx, { sha256, size: 0, place: "folder" });
    if (known && place === "folder") return false;
    await mustHaveFolder().remove(sha256);
    if (!known) await contents.removeContent(tx, sha256);
    return true;
  });
