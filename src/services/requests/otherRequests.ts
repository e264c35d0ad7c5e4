import { randomBytes } from "node:crypto";
import {
  handedIn,
  levelOf,
  recordsIn,
  Turn,
  valuesBack,
  withFiles,
  type EffectOf,
  type StuckReason,
} from "@/core/engine";
import { behind, type Party } from "@/core/form";
import { stepKind, type StoredValue } from "@/core/kinds";
import { mayBegin, type Step } from "@/core/route";
import { files, getPool, inTransaction, processes, requestChildren, requests, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { executorOf } from "@/steps/effects";
import type { AskedRequest, CameOfRequest, RequestEffect } from "@/steps/executor";
import type { BeginningKind } from "@/steps/shapes";
import { clockOffset } from "../kernel/clock";
import { defineView, type Call } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { sentenceOf } from "../kernel/sentence";
import { engineFacts, factsReader, recordsKept } from "./facts";
import type { Occasion } from "./keep";
import { makeRequest } from "./makeRequest";
import { badForm, NotStarted } from "./notStarted";
import { releaseFor } from "./releases";
import { onRequest } from "./requests";
import { whatWaits } from "./whatWaits";

/** How many requests may stand in a line of which each was started by the one before. */
const DEEPEST = 20;
/** How many requests one may lead to, with all that those lead to. */
const MOST = 10_000;

type Asked = EffectOf<BeginningKind>;
type Executor = RequestEffect<BeginningKind>;
type Parent = Pick<requests.RequestRow, "id" | "process_key" | "release_id" | "state" | "chain">;

type Child = requestChildren.ChildRow;

/**
 * Starts the request that an effect asks for, once, and tells the one that asked what came of it. In transactions of
 * which none holds both requests: should the one that asked go another way meanwhile, either that is seen after the
 * start, or the start is seen by the job that ends what is needed no more.
 */
export async function startOther(
  c: Call,
  parent: string,
  effect: Asked,
  executor: Executor,
  occasion?: Occasion,
): Promise<void> {
  const db = getPool();
  const row = await requests.requestForCommand(db, { id: parent }, false, effect.id);
  const waiting = row && (await whatWaits(db, row, effect.id));
  if (!waiting) return;
  const asked = executor.asks(effect);
  try {
    await inTransaction((tx) => make(c, tx, { row, in: waiting.in }, effect.id, asked, occasion));
  } catch (e) {
    if (!(e instanceof NotStarted) && !(e instanceof Failed)) throw e;
    // Nothing is wrong with what was asked; it is tried again.
    if (e instanceof Failed && e.failure.code === "unavailable") throw e;
    const message = e instanceof Failed ? await sentenceOf(e.failure) : e.message;
    const reason = executor.failed(waiting.step.name, message) as StuckReason;
    await onRequest(c, { id: parent }, { type: "effect failed", effect: effect.id, reason }, occasion);
    return;
  }
  const child = (await requestChildren.childOf(db, parent, effect.id))!;
  // The one that asked may have gone another way meanwhile, and what ends then may have come before there was anything.
  const now = await requests.requestForCommand(db, { id: parent }, false, effect.id);
  if (now && child.ends_with && !child.ended) await endUnneeded(c, now, [child], occasion);
  if (!child.waits || child.ended) await tellParent(c, child, occasion);
}

/** Makes the request, unless it was made before. */
async function make(
  c: Call,
  db: Db,
  { row: parent, in: from }: { row: Parent; in: string },
  effect: string,
  asked: AskedRequest,
  occasion: Occasion | undefined,
): Promise<void> {
  // A second try waits for the first, instead of both finding nothing.
  await db.query("select pg_advisory_xact_lock(hashtextextended($1, 8))", [`${parent.id}:${effect}`]);
  if (await requestChildren.childOf(db, parent.id, effect)) return;
  const live = await processes.liveRelease(db, asked.process, true);
  const called = `“${live?.released.name ?? asked.process}”`;
  if (!live) throw new NotStarted(`${called} is not live.`);
  const begins = mayBegin(live.released, from, KINDS);
  if (!c.may({ action: "begin", begins }))
    throw new NotStarted(`${called} does not let this process start one. Ask its owners.`);
  const line = await requestChildren.lineageOf(db, parent.id, MOST);
  if (line.depth + 1 >= DEEPEST)
    throw new NotStarted(`${DEEPEST} requests stand in a line that started each other, and no more may.`);
  if (line.all >= MOST)
    throw new NotStarted(`the request it all began with has led to ${MOST} others, and may lead to no more.`);
  const d = await loadDirectory(db);
  const release = await releaseFor(db, d, live.id);
  const own = await releaseFor(db, d, parent.release_id);
  const now = occasion?.at ?? Date.now() + (await clockOffset(db));
  const { values, copied } = await withCopies(db, parent.id, asked.values);
  const reach = { request: null, by: [], copies: copied };
  const reader = factsReader(db, d, release.definition, reach);
  const things = values.flatMap(([, v]) => recordsIn(v));
  const handed = handedIn(release, values, engineFacts(d, await reader.load(things), now));
  if ("why" in handed) throw new NotStarted(handed.why);
  const made = await makeRequest(db, live, {
    requester: asked.asProcess ? askedBy(parent, own.definition.name) : parent.state.requester,
    actor: null,
    data: handed.data,
    startKey: null,
    startHash: null,
    copied,
    chain: parent.chain,
    occasion,
  }).catch((e: unknown) => {
    throw badForm(e, live.released) ?? e;
  });
  await requestChildren.insertChild(db, {
    parent_id: parent.id,
    effect,
    child_id: made.id,
    waits: asked.waits,
    ends_with: asked.endsWith,
    root: line.root,
    depth: line.depth + 1,
  });
}

type Values = AskedRequest["values"];
/** Values to be handed over, with copies in the place of files: those stay with the request they were sent to. */
async function withCopies(db: Db, parent: string, values: Values) {
  const named = values.flatMap(([, v]) => recordsIn(v)).filter((r) => r.register === "file");
  const ids = new Map(named.map((r) => [r.id, randomBytes(18).toString("base64url")]));
  if (ids.size === 0) return { values, copied: [] };
  const made = await files.copyFiles(db, ids, parent);
  return { values: values.map(([port, v]) => [port, withFiles(v, ids)] as const), copied: made };
}

/** The process of a request, asking by itself; who led to that stays known. */
function askedBy({ process_key: key, state }: Parent, name: string): Party {
  return { kind: "process", key, name, behind: behind(state.requester) };
}

/** Tells the request that started another what came of that: that it was started, or how it ended. */
async function tellParent(c: Call, child: Child, occasion?: Occasion): Promise<void> {
  const db = getPool();
  const parent = await requests.requestForCommand(db, { id: child.parent_id }, false, child.effect);
  const waiting = parent && (await whatWaits(db, parent, child.effect));
  if (!waiting) return;
  const { step } = waiting;
  const executor = executorOf(step as { kind: BeginningKind }) as unknown as Executor;
  const effect = { id: child.effect, step: step.id, kind: step.kind as BeginningKind };
  const came = child.waits
    ? await endOf(db, child, step)
    : { number: child.number, result: null, values: [] };
  const command =
    "code" in came
      ? ({ type: "effect failed", effect: child.effect, reason: came } as const)
      : ({ type: "effect done", effect, result: executor.came(came) } as const);
  await onRequest(c, { id: child.parent_id }, command, occasion);
}

/** How a request ended, and what can be read of it; or why that cannot be told. */
async function endOf(db: Db, { child_id, number }: Child, step: Step): Promise<CameOfRequest | StuckReason> {
  const row = (await requests.requestForCommand(db, { id: child_id }, false))!;
  const { state } = row;
  const result = state.result?.name ?? state.status;
  const gives = stepKind(KINDS, step).begins!.knows(step).gives;
  const d = await loadDirectory(db, row.directory_version);
  const release = await releaseFor(db, d, row.release_id);
  const reader = factsReader(db, d, release.definition, { request: row.id, by: [] });
  const data = await reader.load(recordsKept(release, state), state.data);
  const now = Date.now() + Number(row.clock_offset);
  const back = valuesBack(new Turn(release, state, engineFacts(d, data, now), null), step, gives);
  if ("code" in back) return back;
  const values: readonly (readonly [string, StoredValue])[] = [...back];
  return { number, result, values };
}

/** Whether a request that was to end with the one that started it is needed by that, as it is now. */
function isNeeded({ waits, effect }: Child, parent: Pick<Parent, "state">): boolean {
  const { state } = parent;
  if (!waits) return state.status !== "withdrawn" && state.status !== "cancelled";
  const at = levelOf(state, effect);
  return at?.state.pending[at.id] !== undefined;
}

/** Cancels what was started by steps of a request, where nobody needs it any more and it was to end then. */
async function endUnneeded(
  c: Call,
  parent: Pick<Parent, "id" | "state">,
  children: readonly Child[],
  occasion?: Occasion,
): Promise<void> {
  for (const x of children)
    if (!isNeeded(x, parent)) await onRequest(c, { id: x.child_id }, { type: "call off" }, occasion);
}

/** The same by a job, when a request went another way. Called off twice, it is called off once. */
export const callOff = defineView(["run jobs"], async (c, parent: string): Promise<void> => {
  if (!c.may({ action: "run jobs" })) return;
  const db = getPool();
  const children = await requestChildren.childrenEndingWith(db, parent);
  const row = children.length > 0 ? await requests.requestForCommand(db, { id: parent }, false) : null;
  if (row) await endUnneeded(c, row, children);
});

/** A request has ended that another waits for: it is told. Told twice, it hears it once. */
export const requestEnded = defineView(["run jobs"], async (c, request: string): Promise<void> => {
  if (!c.may({ action: "run jobs" })) return;
  const child = await requestChildren.startedAs(getPool(), request);
  if (child?.ended) await tellParent(c, child);
});
