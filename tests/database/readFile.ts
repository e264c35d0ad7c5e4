import { openFile, type Actor, type OpenedFile, type Outcome } from "@/services";

/** A file with all that is in it, for whoever may open it. */
export async function readFile(
  actor: Actor,
  id: string,
): Promise<Outcome<{ file: OpenedFile["file"]; bytes: Buffer }>> {
  const opened = await openFile(actor, id);
  return opened.ok
    ? { ok: true, value: { file: opened.value.file, bytes: await allOf(opened.value.parts) } }
    : opened;
}

export async function allOf(parts: AsyncIterable<Buffer>): Promise<Buffer> {
  const all: Buffer[] = [];
  for await (const part of parts) all.push(part);
  return Buffer.concat(all);
}
