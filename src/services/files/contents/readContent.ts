import { createHash } from "node:crypto";
import { contents, getPool, type ContentRow } from "@/db";
import { Damaged, NotThere } from "@/outside/folder";
import { mustHaveFolder } from "./folderNow";

/** How often it is looked for anew where it was moved meanwhile. */
const TRIES = 3;

/**
 * What is in a file, part by part. It is held against its fingerprint before the last part is given, so that nobody ever has
 * the whole of what is not what was kept. What is moved to another place meanwhile is read on from there.
 * @throws NotThere, Damaged
 */
export async function* contentParts(sha256: string): AsyncGenerator<Buffer> {
  const hash = createHash("sha256");
  let read = 0;
  let last: Buffer | null = null;
  for (let tries = 1; ; tries++) {
    const row = await contents.contentOf(getPool(), sha256);
    if (!row) throw new NotThere(sha256);
    try {
      for await (const part of partsFrom(row, read)) {
        if (last) yield last;
        hash.update(part);
        read += part.length;
        last = part;
      }
      if (read < row.size) throw new NotThere(sha256);
      break;
    } catch (e) {
      if (!(e instanceof NotThere) || tries === TRIES) throw e;
    }
  }
  if (hash.digest("hex") !== sha256) throw new Damaged(sha256);
  if (last) yield last;
}

/** @throws NotThere */
export async function* partsFrom({ sha256, size, place }: ContentRow, from: number): AsyncGenerator<Buffer> {
  if (place === "folder") {
    yield* mustHaveFolder().read(sha256, from);
    return;
  }
  for (let at = from; at < size;) {
    const nth = Math.floor(at / contents.PART_BYTES);
    const part = await contents.partOf(getPool(), sha256, nth);
    const rest = part?.subarray(at - nth * contents.PART_BYTES);
    if (!rest || rest.length === 0) throw new NotThere(sha256);
    at += rest.length;
    yield rest;
  }
}

/** Bytes of a picture that is read into memory. */
const MOST_OF_PICTURE = 40_000_000;

/** What is in a file that is to be drawn as a picture; null where it is too large for one. */
export const pictureBytes = async ({
  sha256,
  size,
}: {
  sha256: string;
  size: number;
}): Promise<Buffer | null> => (size > MOST_OF_PICTURE ? null : contentBytes(sha256));

/** All of it at once, of what is known not to be large. @throws NotThere, Damaged */
export async function contentBytes(sha256: string): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of contentParts(sha256)) parts.push(part);
  return Buffer.concat(parts);
}
