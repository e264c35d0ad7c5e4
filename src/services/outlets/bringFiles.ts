import type { EffectOf, StuckReason } from "@/core/engine";
import { files, getPool, inTransaction, requests } from "@/db";
import { Damaged, NotThere } from "@/outside/folder";
import { print, putOnShelf, type Carried, type OutletServer, type Taken } from "@/outside/outlets";
import type { AskedBringing, OutsideEffect } from "@/steps/executor";
import type { EffectKind } from "@/steps/shapes";
import { contentParts } from "../files/contents/readContent";
import type { Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import type { Occasion } from "../requests/keep";
import { commandIn, onRequest } from "../requests/requests";
import { whatWaits } from "../requests/whatWaits";
import { outletServer } from "./outletServer";

/** What is not taken for now is tried again for so long; then the request says why it waits, and an owner retries. */
const PATIENCE_MS = 15 * 60_000;

/** Thrown out of a try that will not do better. */
class Never extends Error {}

/**
 * Brings what an effect asks for to its outlet, and tells the request. Each file goes under a key that follows from the
 * effect, before the transaction that tells: a worker killed in between, or two of them, bring it again under the same key,
 * by which the outlet knows it.
 */
export async function bringFiles(
  c: Call,
  request: string,
  effect: EffectOf<EffectKind>,
  executor: OutsideEffect<EffectKind>,
  occasion?: Occasion,
): Promise<void> {
  const db = getPool();
  const row = await requests.requestForCommand(db, { id: request }, false, effect.id);
  const waiting = row && (await whatWaits(db, row, effect.id));
  if (!waiting) return;
  const asked = executor.asks(effect);
  let brought: string[];
  try {
    brought = await bringAll(
      request,
      effect.id,
      asked,
      occasion?.at ?? Date.now() + Number(row.clock_offset),
    );
  } catch (e) {
    if (!(e instanceof Never)) throw e;
    const reason = executor.failed(waiting.step.name, e.message) as StuckReason;
    await onRequest(c, { id: request }, { type: "effect failed", effect: effect.id, reason }, occasion);
    return;
  }
  await inTransaction(async (tx) => {
    // Whoever was quicker has told already.
    const held = await requests.requestForCommand(tx, { id: request }, true, effect.id);
    if (!held || !(await whatWaits(tx, held, effect.id))) return;
    const { id, step, kind } = effect;
    const result = executor.came(brought, asked);
    await commandIn(c, tx, request, { type: "effect done", effect: { id, step, kind }, result }, occasion);
  });
}

/** @returns what each is known by there. @throws Never; Failed where it is to be tried again */
async function bringAll(
  request: string,
  effect: string,
  asked: AskedBringing,
  now: number,
): Promise<string[]> {
  const db = getPool();
  if (asked.files.length === 0) throw new Never("there is nothing to be brought: what it reads is empty.");
  const server = await outletServer(db, asked.to.outlet);
  if (typeof server === "string") throw new Never(server);
  const out: string[] = [];
  for (const id of asked.files) {
    const file = await files.fileById(db, id);
    if (file?.request_id !== request)
      throw new Never("a document is not there any more. Have it drawn up anew, and retry.");
    const { name, media_type: mediaType, size, sha256 } = file;
    let spoilt = false;
    const carried: Carried = {
      key: `${request}-${effect}-${id}`,
      name,
      mediaType,
      size,
      sha256,
      async *parts() {
        try {
          yield* contentParts(sha256);
        } catch (e) {
          spoilt = e instanceof Damaged || e instanceof NotThere;
          throw e;
        }
      },
    };
    const taken = await bringOne(server, carried, asked.to);
    // To whoever speaks to the outlet that looks as if it could not be reached.
    if (spoilt)
      throw new Never(
        "a document is not what it was when it was kept. Whoever runs the server finds out more: npm run files -- check",
      );
    if (taken.came === "taken") {
      out.push(taken.as);
      continue;
    }
    // What came of those before is known again there.
    if (taken.came === "refused" || now - asked.since > PATIENCE_MS) throw new Never(taken.why);
    throw new Failed({ code: "unavailable", data: { why: "busy" } });
  }
  return out;
}

function bringOne(server: OutletServer, carried: Carried, to: AskedBringing["to"]): Promise<Taken> {
  switch (to.outlet) {
    case "shelf":
      return putOnShelf(server, carried, to.folder);
    case "print room":
      return print(server, carried, to.copies);
  }
}
