import { contents, getPool, type Client } from "@/db";
import { folderNow, mustHaveFolder } from "./folderNow";
import { inParts } from "./inParts";
import type { Spooled } from "./spool";

/**
 * Has it in the folder already, where there is one, before a transaction begins that should not last as long as that takes.
 * What comes of nothing afterwards belongs to nothing there.
 */
export async function prepareContent({ sha256, size, parts }: Spooled): Promise<void> {
  const folder = folderNow();
  if (folder && (await contents.contentOf(getPool(), sha256))?.place !== "database")
    await folder.put(sha256, size, parts());
}

/**
 * Keeps what is to be in a file, before the file is: once, however many have it. In the caller's transaction, whose row holds
 * off whoever would remove it.
 */
export async function keepContent(db: Client, c: Spooled): Promise<void> {
  const wanted = folderNow() ? "folder" : "database";
  const { place, known } = await contents.holdContent(db, { sha256: c.sha256, size: c.size, place: wanted });
  // Also of what is known: one who was stopped in the middle of removing it may have taken it away.
  if (place === "folder") await mustHaveFolder().put(c.sha256, c.size, c.parts());
  else if (!known) await insertParts(db, c);
}

export async function insertParts(db: Client, c: Pick<Spooled, "sha256" | "parts">): Promise<void> {
  let nth = 0;
  for await (const part of inParts(c.parts(), contents.PART_BYTES))
    await contents.insertPart(db, c.sha256, nth++, part);
}
