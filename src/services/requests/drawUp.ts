import { createHash } from "node:crypto";
import { BETWEEN, type EffectOf, type StuckReason } from "@/core/engine";
import { at, documentSources, files, getPool, inTransaction, requests } from "@/db";
import type { DocumentEffect, MadeFile } from "@/steps/executor";
import type { EffectKind } from "@/steps/shapes";
import { DOCX } from "../documents";
import { keepContent } from "../files/contents/keepContent";
import { spooled, type Spooled } from "../files/contents/spool";
import { tidyFileName } from "../files/files";
import type { Call } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { sentenceOf } from "../kernel/sentence";
import type { Occasion } from "./keep";
import { makeAsked, type MadeAsked } from "./makeAsked";
import { commandIn, onRequest } from "./requests";
import { whatWaits } from "./whatWaits";

/** Characters of a name, so that what tells it from others of its kind has room behind. */
const LONGEST = 150;
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
  let made: MadeAsked;
  try {
    const d = await loadDirectory(db);
    made = await makeAsked(d, request, executor.asks(effect), waiting.calendar);
  } catch (e) {
    if (!(e instanceof Failed)) throw e;
    // Nothing is wrong with what was asked; it is tried again.
    if (e.failure.code === "unavailable") throw e;
    const reason = executor.failed(waiting.step.name, await sentenceOf(e.failure)) as StuckReason;
    await onRequest(c, { id: request }, { type: "effect failed", effect: effect.id, reason }, occasion);
    return;
  }
  const now = occasion?.at ?? Date.now() + Number(row.clock_offset);
  await inTransaction(async (tx) => {
    // Whoever was quicker has told already: held by the row, so that its files are not told twice.
    const held = await requests.requestForCommand(tx, { id: request }, true, effect.id);
    if (!held || !(await whatWaits(tx, held, effect.id))) return;
    const { id, step, kind } = effect;
    const versions = made.of && !made.signed;
    const version = versions ? (await documentSources.versionsAt(tx, request, placeOf(effect))) + 1 : 1;
    // One that is drawn up again says so by its name: the others stay what they are.
    const called = version === 1 ? made.called : `${made.called}, version ${version}`;
    const named = filesOf(request, id, { ...made, called });
    for (const { contents, ...f } of named) {
      await keepContent(tx, contents);
      const { sha256, size } = contents;
      await files.insertFile(tx, { ...f, sha256, size, at: at(now)!, by: null, message: null, request });
    }
    if (made.of)
      await documentSources.keepSource(tx, {
        file: named[0]!.id,
        request,
        place: made.signed ? null : placeOf(effect),
        version,
        made: { ...made.of, called },
      });
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

interface Named {
  id: string;
  name: string;
  mediaType: string;
  contents: Spooled;
}

/** Where something is drawn up: the step, in its round and its procedure. */
const placeOf = ({ id, step, scope = "" }: EffectOf<EffectKind>): string =>
  [...id.split(BETWEEN).slice(0, -1), step, scope].join(" ");

/** The files of a document as they are kept. */
function filesOf(request: string, effect: string, { called, files: all, signed }: MadeAsked): Named[] {
  return all.map(({ kind, bytes }) => ({
    id: createHash("sha256").update(`${request}:${effect}:${kind}`).digest("base64url").slice(0, 24),
    name: tidyFileName(
      `${called.replace(/[\\/]/g, "-").slice(0, LONGEST)}${signed ? " signed" : ""}.${kind}`,
    ),
    mediaType: TYPES[kind],
    contents: spooled(bytes),
  }));
}
const told = ({ id, name, contents: { size, sha256 } }: Named): MadeFile => ({ id, name, size, sha256 });
