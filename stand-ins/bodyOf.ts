import type { IncomingMessage } from "node:http";

/** What a call brings. @returns null where it is more than so many bytes */
export async function bodyOf(req: IncomingMessage, most: number): Promise<Buffer | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const d of req as AsyncIterable<Buffer>) {
    size += d.length;
    if (size > most) return null;
    parts.push(d);
  }
  return Buffer.concat(parts);
}
