import { decide, NEW_REQUEST, Turn, type Command, type CompiledRelease, type Effect, type RequestEvent, type RequestState } from "@/core/engine";
import type { FormData } from "@/core/form";
import { at, formDrafts, getPool, inTransaction, notices, processes, requests, type Db } from "@/db";
import type { TellEffect } from "@/core/engine";
import { actorOf, type Actor } from "./actor";
import { clockOffset } from "./clock";
import { loadDirectory, type Directory } from "./directory";
import { engineFacts, factsReader } from "./facts";
import { filesNamed } from "./fileFacts";
import { attachFiles } from "./files";
import { Failed, outcome, type Outcome } from "./failure";
import { can } from "./policy";
import { releaseFor } from "./releases";
import { writeRecords } from "./writeRecords";

/** Inside effects one command may cause before it counts as running away. */
const MAX_EFFECTS = 300;

/** When a command happens. Seeding passes its own clock and delivers by itself; everything else leaves it out. */
export interface Occasion {
  at: number;
  /** Jobs are added by the caller later. */
  withoutJobs: true;
}

interface Carried {
  state: RequestState;
  events: RequestEvent[];
  effects: Effect[];
  title: string;
}

/**
 * One command and everything it causes inside: writes are carried out in the caller's transaction and
 * their results fed back until none is left.
 */
async function carry(db: Db, d: Directory, release: CompiledRelease, request: string | null, state: RequestState, first: Command, now: number): Promise<Carried> {
  const events: RequestEvent[] = [];
  const effects: Effect[] = [];
  const queue: Command[] = [first];
  // Writes that follow from writes are still that person's doing.
  const onBehalfOf = "actor" in first ? first.actor : null;
  let current = state;
  const read = factsReader(db, d, release.definition, { request, by: onBehalfOf ? [onBehalfOf] : [] });
  let facts = engineFacts(d, { people: d.facts, registers: d.registers, records: {} }, now);
  for (let n = 0; queue.length > 0; n++) {
    const command = queue.shift()!;
    if (n > MAX_EFFECTS) throw new Error(`request ${state.number}: more than ${MAX_EFFECTS} writes from one command`);
    facts = engineFacts(d, await read.load(current.data, "data" in command ? command.data : {}), now);
    const decision = decide(release, current, command, facts);
    if (!decision.ok) throw new Failed({ code: "refused", data: decision.refusal });
    current = decision.state;
    events.push(...decision.events);
    effects.push(...decision.effects);
    for (const e of decision.effects) {
      // A branch that ended the request meanwhile takes its pending writes with it.
      if (e.kind !== "write" || !current.pending[e.id]) continue;
      const stepName = release.places.get(e.step)?.step.name ?? e.step;
      const written = await writeRecords(db, e, { at: now, by: onBehalfOf, request: current.number, facts, registers: d.registers, stepName });
      // What was written may be what the next step reads.
      read.forget();
      queue.push(written.ok ? { type: "effect done", effect: e.id, records: written.records } : { type: "effect failed", effect: e.id, reason: written.reason });
    }
  }
  facts = engineFacts(d, await read.load(current.data), now);
  const title = new Turn(release, current, facts, null).text("", "title", release.definition.title).trim();
  return { state: current, events, effects: latest(effects), title: title || release.definition.name };
}

/** The last word on each task and timer: earlier ones of the same command never saw the light. */
function latest(effects: readonly Effect[]): Effect[] {
  const tasks = new Map<string, Effect>();
  const set = new Map<string, Effect>();
  const rest: Effect[] = [];
  for (const e of effects) {
    if (e.kind === "task") tasks.set(e.task.id, e);
    else if (e.kind === "set timer") set.set(e.timer.id, e);
    else if (e.kind === "clear timer") {
      if (!set.delete(e.timer)) rest.push(e);
    } else rest.push(e);
  }
  return [...tasks.values(), ...set.values(), ...rest];
}

const stepNames = (r: CompiledRelease): Record<string, string> => Object.fromEntries([...r.places].map(([id, p]) => [id, p.step.name]));

async function keep(db: Db, release: CompiledRelease, id: string | null, fresh: requests.NewRequest | null, c: Carried, offset: number, occasion?: Occasion, answered: string | null = null): Promise<string> {
  const jobs = occasion ? null : { offset };
  return requests.saveRequest(db, requests.changeOf(id, fresh, c.title, c.state, c.events, c.effects, stepNames(release), jobs, answered));
}

export interface Started {
  id: string;
  number: string;
  effects: Effect[];
}

/**
 * Makes a request of the live release of a process.
 * @param startKey an idempotency key of this person's: a second start with the same key gives the first
 *   one's number. For a form it is the id of its draft, which goes when the request is made.
 */
export function startRequest(actor: Actor, processKey: string, data: FormData, startKey: string | null = null, occasion?: Occasion): Promise<Outcome<Started>> {
  return outcome(() =>
    inTransaction(async (db) => {
      const ownKey = startKey ? `${actor.id}:${startKey}` : null;
      if (ownKey) {
        // The lock makes a second try wait for the first, instead of both finding nothing.
        await db.query("select pg_advisory_xact_lock(hashtextextended($1, 7))", [ownKey]);
        const earlier = await requests.requestByStartKey(db, ownKey);
        if (earlier) return { id: "", number: earlier.number, effects: [] };
      }
      const d = await loadDirectory(db);
      const offset = await clockOffset(db);
      const row = await processes.liveRelease(db, processKey);
      if (!row || !can(actor, { action: "ask", starts: row.definition.starts, live: true }))
        throw new Failed({ code: "not-found", data: { what: "process", id: processKey } });
      const release = await releaseFor(db, d, row.id);
      const { prefix, digits } = row.definition.numbering;
      const number = `${prefix}-${String(await processes.nextNumber(db, prefix)).padStart(digits, "0")}`;
      const now = occasion?.at ?? Date.now() + offset;
      const c = await carry(db, d, release, null, NEW_REQUEST, { type: "start", actor: actor.id, requester: actor.id, number, data }, now);
      const id = await keep(db, release, null, { number, process: processKey, release: row.id, startKey: ownKey }, c, offset, occasion);
      await attachFiles(db, filesNamed(release.definition.fields, c.state.data), actor.id, id);
      if (startKey) await formDrafts.deleteDraft(db, startKey, actor.id);
      return { id, number, effects: c.effects };
    }),
  );
}

/** Carries out a command on a request, locked from reading to writing. */
async function onRequest(by: { id: string } | { number: string }, command: Command, occasion?: Occasion): Promise<{ number: string; effects: Effect[]; events: RequestEvent[] }> {
  return inTransaction(async (db) => {
    const row = await requests.lockRequest(db, by);
    if (!row) throw new Failed({ code: "not-found", data: { what: "request", id: "id" in by ? by.id : by.number } });
    if (command.type === "retry" || command.type === "skip" || command.type === "cancel") {
      const owner = await requests.isOwner(db, row.process_key, command.actor);
      const actor = await actorOf(db, command.actor);
      if (!can(actor, { action: "watch", owner })) throw new Failed({ code: "not-allowed", data: { action: `${command.type} this request; its process owners may` } });
    }
    const d = await loadDirectory(db, row.directory_version);
    const offset = Number(row.clock_offset);
    const release = await releaseFor(db, d, row.release_id);
    const c = await carry(db, d, release, row.id, row.state, command, occasion?.at ?? Date.now() + offset);
    if (c.events.length > 0) await keep(db, release, row.id, null, c, offset, occasion, command.type === "answer" ? command.task : null);
    if ("data" in command) {
      const before = new Set(filesNamed(release.definition.fields, row.state.data));
      await attachFiles(db, filesNamed(release.definition.fields, c.state.data).filter((id) => !before.has(id)), command.actor, row.id);
    }
    return { number: row.number, effects: c.effects, events: c.events };
  });
}

/** What a person may ask of a request by its number. The engine checks that the task is theirs. */
export type PersonCommand = Exclude<Command, { type: "start" | "time reached" | "effect done" | "effect failed" }>;
type WithoutActor<C> = C extends { actor: string } ? Omit<C, "actor"> : never;

export function act(actor: Actor, number: string, command: WithoutActor<PersonCommand>, occasion?: Occasion): Promise<Outcome<{ number: string; effects: Effect[] }>> {
  return outcome(() => onRequest({ number }, { ...command, actor: actor.id } as Command, occasion));
}

/**
 * Fires every timer of a request that is due, in order. Called by a worker, possibly twice for the same
 * timer or late: a timer that is gone from the state does nothing.
 */
export async function fireTimers(requestId: string, occasion?: Occasion): Promise<{ fired: number; effects: Effect[] }> {
  const db = getPool();
  const now = occasion?.at ?? Date.now() + (await clockOffset(db));
  const due = await requests.dueTimers(db, requestId, at(now)!);
  const effects: Effect[] = [];
  let fired = 0;
  for (const timer of due) {
    const r = await onRequest({ id: requestId }, { type: "time reached", timer }, occasion);
    fired += r.events.length > 0 ? 1 : 0;
    effects.push(...r.effects);
  }
  return { fired, effects };
}

/**
 * Puts a notice on the screens of those told, once, however often a worker tries: notice and trail
 * entry are kept in one transaction, and a notice exists once per person and effect.
 */
export async function deliverNotice(requestId: string, effect: TellEffect, occasion?: Occasion): Promise<void> {
  await inTransaction(async (db) => {
    const row = await requests.lockRequest(db, { id: requestId });
    if (!row) return;
    const offset = Number(row.clock_offset);
    const now = occasion?.at ?? Date.now() + offset;
    let fresh = 0;
    for (const person of effect.people)
      if (await notices.insertNotice(db, { person, request: requestId, effectKey: `${requestId}:${effect.id}`, subject: effect.subject, body: effect.text, at: at(now)! })) fresh++;
    if (fresh === 0) return;
    const d = await loadDirectory(db, row.directory_version);
    const release = await releaseFor(db, d, row.release_id);
    const c = await carry(db, d, release, requestId, row.state, { type: "effect done", effect: effect.id, people: effect.people }, now);
    await keep(db, release, requestId, null, c, offset, occasion);
  });
}

