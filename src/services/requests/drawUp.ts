import { createHash } from "node:crypto";
import type { EffectOf, StuckReason } from "@/core/engine";
import { at, files, getPool, inTransaction, requests, templates } from "@/db";
import type { AskedDocument, DocumentEffect, MadeFile } from "@/steps/executor";
import type { EffectKind } from "@/steps/shapes";
import { DOCX, docxWorkRefused, makeDocument, type Made } from "../documents";
import { tidyFileName } from "../files/files";
import type { Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { sentenceOf } from "../kernel/sentence";
import type { Occasion } from "./keep";
import { commandIn, onRequest } from "./requests";
import { whatWaits } from "./whatWaits";

const TYPES = { docx: DOCX, pdf: "application/pdf" } as const;

/**
 * Draws up the document that an effect asks for, and tells the request. It is made before the transaction, because that
 * takes seconds; its files are kept in the one that tells, under ids that follow from the effect, so that a worker killed
 * in between, or two of them, leave no second one.
 */
export async function drawUp(
  c: Call,
  request: string,
  effect: EffectOf<EffectKind>,
  executor: DocumentEffect<EffectKind>,
  occasion?: Occasion,
): Promise<void> {
  const db = getPool();
  const row = await requests.requestForCommand(db, { id: request }, false, effect.id);
  const waiting = row && (await whatWaits(db, row, effect.id));
  if (!waiting) return;
  const asked = executor.asks(effect);
  let made: Made;
  try {
    made = await makeFor(request, asked);
  } catch (e) {
    if (!(e instanceof Failed)) throw e;
    // Nothing is wrong with what was asked; it is tried again.
    if (e.failure.code === "unavailable") throw e;
    const reason = executor.failed(waiting.step.name, await sentenceOf(e.failure)) as StuckReason;
    await onRequest(c, { id: request }, { type: "effect failed", effect: effect.id, reason }, occasion);
    return;
  }
  const named = filesOf(request, effect.id, asked, made);
  const now = occasion?.at ?? Date.now() + Number(row.clock_offset);
  await inTransaction(async (tx) => {
    // Whoever was quicker has told already: held by the row, so that its files are not told twice.
    const held = await requests.requestForCommand(tx, { id: request }, true, effect.id);
    if (!held || !(await whatWaits(tx, held, effect.id))) return;
    for (const f of named) await files.insertOfRequest(tx, { ...f, at: at(now)! }, request);
    const { id, step, kind } = effect;
    const result = executor.came(named.map(told), made.pages);
    await commandIn(
      c,
      tx,
      request,
      { type: "effect done", effect: { id, step, kind }, result, files: named.map((f) => f.id) },
      occasion,
    );
  });
}

async function makeFor(request: string, { template, as, filled }: AskedDocument): Promise<Made> {
  const db = getPool();
  const bytes = await templates.templateBytes(db, template.sha256);
  if (!bytes)
    throw docxWorkRefused(
      `the file of the template “${template.name}” is not here. Bring it in again, release, and retry.`,
    );
  const own = async (id: string) =>
    (await files.fileById(db, id))?.request_id === request ? files.bytesOf(db, id) : null;
  return makeDocument({ bytes, tags: template.tags, filled, as, fileBytes: own });
}

interface Named {
  id: string;
  name: string;
  mediaType: string;
  sha256: Buffer;
  bytes: Buffer;
}

/** The files of a document, the PDF first; what is not asked for is left out. */
function filesOf(request: string, effect: string, asked: AskedDocument, { docx, pdf }: Made): Named[] {
  const file = (kind: keyof typeof TYPES, bytes: Buffer): Named => ({
    id: createHash("sha256").update(`${request}:${effect}:${kind}`).digest("base64url").slice(0, 24),
    name: tidyFileName(`${asked.called.replace(/[\\/]/g, "-")}.${kind}`),
    mediaType: TYPES[kind],
    sha256: createHash("sha256").update(bytes).digest(),
    bytes,
  });
  return [...(pdf ? [file("pdf", pdf)] : []), ...(asked.as === "pdf" ? [] : [file("docx", docx)])];
}
const told = ({ id, name, bytes, sha256 }: Named): MadeFile => ({
  id,
  name,
  size: bytes.length,
  sha256: sha256.toString("hex"),
});
