import {
  answersOf,
  levelOf,
  loadsKey,
  NeedsWhole,
  outsideId,
  proceduresFrom,
  projections,
  releaseAt,
  Turn,
  turnsGiven,
  type Command,
  type CompiledRelease,
  type Effect,
  type Load,
  type LoadsAsked,
  type ProceduresRead,
  type EffectOf,
  type Projections,
  type RequestEvent,
  type RequestState,
} from "@/core/engine";
import { behind, readsHidden, type FactsData, type RecordRef, type StoredRecord } from "@/core/form";
import { turns, type Db, type recordStarts } from "@/db";
import { executorOf } from "@/steps/effects";
import type { KeptNotice } from "@/steps/executor";
import type { KeptKind } from "@/steps/shapes";
import { isWithdrawn, registersSeen } from "../kernel/registersSeen";
import type { Actor } from "../kernel/actor";
import { accountBehind, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { think } from "../thinking/think";
import { formAsking, withRecordsAsked } from "./askRecords";
import { engineFacts, factsReader, recordsKept, recordsRead, thingsHeld } from "./facts";
import { writeRecords } from "../registers/writeRecords";
import { registersAtHand } from "./registersAtHand";

/** Seconds all formulas of one decision may take together. */
const MOST_SECONDS = 2;

/** Inside effects one token may cause in one command before it counts as running away. */
const MAX_EFFECTS = 300;

/** Different groups of people one command may choose between. */
const MOST_CHOSEN = 500;

/** How much people have beside this request; under the lock from here to the end of the transaction. */
async function loadsOf(db: Db, asked: LoadsAsked, request: string | null): Promise<Record<string, Load>> {
  await turns.lockTurns(db);
  const rows = await turns.loads(db, { ...asked, besides: request });
  return Object.fromEntries(rows.map(({ person, open, last }) => [person, { open, last }]));
}

export interface Carried {
  state: RequestState;
  events: RequestEvent[];
  /** Tasks and timers that came, changed or went. */
  changes: Projections;
  /** Notices to be kept with it, by the effect that asked for each. */
  told: Told[];
  /** What workers have to do. */
  outside: Effect[];
  /** Rounds are to be gone on with: it opened as many as one command may. */
  goesOn: boolean;
  title: string;
}
/** Whether rounds were left off, in whatever procedure, and have not been gone on with since. */
function parks(s: RequestState, e: RequestEvent): boolean {
  if (e.type === "in call") {
    const call = s.calls[e.call];
    return call !== undefined && parks(call.state, e.event);
  }
  return e.type === "run parked" && s.runs[e.run]?.parked === true;
}
export interface Told extends KeptNotice {
  effect: string;
  /** The step that asked, and its round. */
  step: string;
  scope: string | null;
}
export const toldOf = (e: Effect, n: KeptNotice): Told => ({
  ...n,
  effect: e.id,
  step: e.step,
  scope: e.scope ?? null,
});
export interface CarryOn {
  db: Db;
  directory: Directory;
  release: CompiledRelease;
  procedures: ProceduresRead;
  /** The request's id; null while it is being made. */
  request: string | null;
  now: number;
  /** Files it may hold that were copied for it, by their ids, where nobody does it. */
  copies?: readonly string[];
  /** The mail that starts it: what came along may be held. */
  mail?: string;
  /** By what the request was started, oldest first. */
  chain: readonly recordStarts.Cause[];
  /** How whoever gives the command acts. */
  via?: string | null;
  /** Who gives it, where that is a person: what they are told of records is what they may see. */
  actor?: Actor;
  /** There are no workers to go on with rounds: all are opened at once. */
  alone?: boolean;
}

/** What is filled in where a task stands in a procedure: its form is another than the request's. */
function sentInside(
  release: CompiledRelease,
  state: RequestState,
  c: Command,
  procedures: ProceduresRead,
): RecordRef[] {
  if (c.type !== "answer") return [];
  const level = levelOf(state, c.task);
  if (!level || level.calls.length === 0) return [];
  return thingsHeld(releaseAt(level, release, proceduresFrom(procedures)).definition.fields, c.data);
}

/** What of records whoever answers may not see, where the answer reads values anew and says what they come to. */
function closedToActor(
  { directory: d, release, procedures, actor }: CarryOn,
  state: RequestState,
  c: Command,
): Pick<FactsData, "hiddenFromActor"> {
  const level = c.type === "answer" && actor ? levelOf(state, c.task) : null;
  const task = level && Object.hasOwn(level.state.tasks, level.id) ? level.state.tasks[level.id] : undefined;
  if (c.type !== "answer" || !actor || !level || !task) return {};
  const answers = answersOf(releaseAt(level, release, proceduresFrom(procedures)), task);
  if (!answers.some((a) => a.id === c.answer && a.anew)) return {};
  return { hiddenFromActor: readsHidden(d.registers, registersSeen(d, actor)) };
}

/** One command and everything it causes inside, carried out in the caller's transaction until nothing is left. */
export async function carry(on: CarryOn, state: RequestState, first: Command): Promise<Carried> {
  return (await run(on, state, first, true))!;
}

/** The same where there is no transaction; null says that the command would write. */
export const carryLightly = (on: CarryOn, state: RequestState, first: Command): Promise<Carried | null> =>
  run(on, state, first, false);

/** What links to the request itself read of it, as it is while it goes on. */
const ownFacts = (process: string, s: RequestState, first: Command, now: number): StoredRecord => {
  const number = first.type === "start" ? first.number : s.number;
  const started = String(first.type === "start" ? now : s.startedAt);
  return { id: number, process, status: "under way", result: null, started, ended: null };
};

/** @param circle steps that write for ever, and were found to: none of them does anything then */
async function run(
  on: CarryOn,
  state: RequestState,
  first: Command,
  mayWrite: boolean,
  circle: string | null = null,
): Promise<Carried | null> {
  const { db, directory: d, release, procedures, request, now } = on;
  const events: RequestEvent[] = [];
  const told: Told[] = [];
  const outside: Effect[] = [];
  const queue: Command[] = [first];
  // What follows from a person's command is still that person's doing.
  const by = "actor" in first ? first.actor : null;
  let current = state;
  /** Records written on the way, which a step may keep in a field of the form. */
  const written: RecordRef[] = [];
  /** By token, the names of the steps that had something done, in order. */
  const asked = new Map<string, string[]>();
  let moved = on.alone ? -Infinity : 0;
  const shapes = registersAtHand(d, release, procedures);
  const mail = on.mail === undefined ? {} : { mail: on.mail };
  const reach = { request, by: by ? [by] : [], copies: on.copies ?? [], ...mail };
  const own = ownFacts(release.definition.name, state, first, now);
  const read = factsReader(db, d, release.definition, reach, shapes, own);
  /** Only the thinking is timed, not the waiting for the database. */
  const thought = async (q: { state: RequestState; command?: Command; facts: FactsData; moved: number }) => {
    const t = await think(release, d, { ...q, at: now, seconds: MOST_SECONDS }, procedures);
    if (t === "too heavy") throw new Failed({ code: "too-heavy", data: { seconds: MOST_SECONDS } });
    if (t === "needs whole") throw new NeedsWhole();
    return t;
  };
  /** What the last thought called the request. */
  let title: string | null = null;
  while (queue.length > 0) {
    const command = queue.shift()!;
    const round = [...asked.values()].find((steps) => steps.length > MAX_EFFECTS);
    if (round) {
      // Nothing of what was written in circles is kept; the request stands stuck where it began.
      await db.query("rollback to savepoint carried");
      return run(on, state, first, mayWrite, [...new Set(round)].join(" → "));
    }
    const sent = sentInside(release, current, command, procedures);
    const beside = [...written, ...sent, ...recordsRead(release, current, command, procedures)];
    const sentWith = "data" in command ? command.data : {};
    const given = command.type === "start" ? (command.given?.data ?? {}) : {};
    const loaded = await read.load(beside, current.data, sentWith, given);
    const known = command === first ? { ...loaded, ...closedToActor(on, state, first) } : loaded;
    const form = formAsking(on, current, command);
    // It is looked for in a transaction.
    if (form && !mayWrite) return null;
    const data = form
      ? await withRecordsAsked(on, form, current, command, known, (records) =>
          read.load([...beside, ...records], current.data, sentWith, given),
        )
      : known;
    let loads: FactsData["loads"] = {};
    let t = await thought({ state: current, command, facts: { ...data, loads }, moved });
    for (let asked = 0; "needs" in t; asked++) {
      // Between people it is chosen under a lock, which there is none without a transaction.
      if (!mayWrite) return null;
      if (asked >= MOST_CHOSEN) throw new Error(`one command chose between people ${MOST_CHOSEN} times`);
      loads = { ...loads, [loadsKey(t.needs)]: await loadsOf(db, t.needs, request) };
      t = await thought({ state: current, command, facts: { ...data, loads }, moved });
    }
    if (!("decision" in t)) throw new Error("a command was not decided");
    const { decision } = t;
    if (!decision.ok) throw new Failed({ code: "refused", data: decision.refusal });
    title = t.title;
    moved = decision.moved;
    current = decision.state;
    events.push(...decision.events);
    for (const e of decision.effects) {
      const executor = executorOf(e);
      if (executor.where !== "inside" && executor.where !== "kept") {
        outside.push(e);
        continue;
      }
      if (executor.where === "kept") {
        told.push(toldOf(e, executor.notice(e as EffectOf<KeptKind>)));
        continue;
      }
      // A branch that ended the request meanwhile takes what it waited for with it.
      const at = levelOf(current, e.id);
      const waits = at?.state.pending[at.id];
      if (!at || !waits) continue;
      if (!mayWrite) return null;
      const inside = proceduresFrom(procedures);
      const runs = releaseAt(at, release, inside);
      const stepName = runs.places.get(e.step)?.step.name ?? e.step;
      const token = outsideId(at, waits.token);
      if (circle !== null) {
        const reason = { code: "runaway" as const, data: { step: circle, limit: MAX_EFFECTS } };
        queue.push({ type: "effect failed", effect: e.id, reason });
        continue;
      }
      if (asked.size === 0) await db.query("savepoint carried");
      asked.set(token, [...(asked.get(token) ?? []), stepName]);
      const done = await executor.carryOut(e, {
        db,
        at: now,
        by,
        number: current.number,
        request,
        stepName,
        registers: d.registers,
        withdrawn: isWithdrawn(d, release.definition.key, runs.definition.key),
        write: (register, writes, { quietly = false, ...how }) =>
          writeRecords(
            {
              db,
              directory: d,
              at: now,
              by,
              via: on.via ?? null,
              request: current.number,
              behind: by === null ? behind(current.requester) : accountBehind(d, by),
              chain: on.chain,
              files: reach,
              own,
              quietly,
            },
            register,
            writes,
            how,
          ),
        facts: async (also = []) =>
          engineFacts(d, also.length === 0 ? data : await read.load([...beside, ...also], current.data), now),
        turn: async () => {
          const reads = recordsRead(release, current, { type: "effect", effect: e.id }, procedures);
          const kept = await read.load([...written, ...reads], current.data);
          return new Turn(runs, at.state, engineFacts(d, kept, now), by);
        },
      });
      // What was written may be what the next step reads.
      read.forget();
      if (done.ok) written.push(...(done.records ?? []));
      queue.push(
        done.ok
          ? { type: "effect done", effect: e, result: done.result }
          : { type: "effect failed", effect: e.id, reason: done.reason },
      );
    }
  }
  if (title === null) {
    const named = await thought({
      state: current,
      facts: await read.load(recordsKept(release, current), current.data),
      moved,
    });
    if (!("title" in named)) throw new Error("a request was not named");
    title = named.title;
  }
  // Choosing found the lock; without it nothing was chosen, and nothing of this is there.
  const given = turnsGiven(release.definition.key, current, events);
  if (given.length > 0 && !mayWrite) return null;
  if (given.length > 0) {
    await turns.lockTurns(db);
    await turns.keepTurns(db, given);
  }
  return {
    state: current,
    events,
    changes: projections(state, current),
    told,
    outside,
    goesOn: events.some((e) => parks(current, e)),
    title: title!,
  };
}
