import type { TagSaid } from "@/core/document";
import {
  fillDocx,
  NotDocx,
  readDocx,
  TooDeep,
  writeTags,
  type Filling,
  type ReadTemplate,
} from "@/outside/docx";

/** What is to be done with a file of the word processor. */
export type DocxWork =
  { read: Uint8Array } | { write: Uint8Array; said: readonly TagSaid[] } | { fill: Filling };
/** What came of it; an error's kind is lost between threads. */
export type DocxDone = { read: ReadTemplate } | { bytes: Uint8Array } | { wrong: string };

/** The work of a thread beside the one that answers pages: a long document takes seconds. */
export default async function thread(work: DocxWork): Promise<DocxDone> {
  try {
    if ("read" in work) return { read: await readDocx(Buffer.from(work.read)) };
    if ("write" in work) return { bytes: await writeTags(Buffer.from(work.write), work.said) };
    return { bytes: await fillDocx({ ...work.fill, bytes: Buffer.from(work.fill.bytes) }) };
  } catch (e) {
    if (e instanceof NotDocx) return { wrong: e.why };
    // The stack's end, or the library's own.
    if (e instanceof RangeError || e instanceof TooDeep)
      return { wrong: "It is nested deeper than a word processor does. Save it there anew." };
    throw e;
  }
}
