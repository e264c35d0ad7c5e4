import {
  aboutOf,
  allTasks,
  levelOf,
  NeedsWhole,
  proceduresFrom,
  releaseAt,
  type Command,
  type CompiledRelease,
  type ProceduresRead,
  type RequestEvent,
  type RequestState,
  type Stuck,
} from "@/core/engine";
import type { FormData, Party, Passed } from "@/core/form";
import {
  at,
  formDrafts,
  getPool,
  inTransaction,
  jobs,
  processes,
  requests,
  type Db,
  type ReleaseRow,
} from "@/db";
import { stuckSentence } from "@/core/words";
import { KINDS } from "@/kinds";
import { viaText, partyOf, type Actor } from "../kernel/actor";
import { clockOffset, nowMs } from "../kernel/clock";
import { loadDirectory, type Directory } from "../kernel/directory";
import { definitionNow } from "../kernel/definitionNow";
import { Failed } from "../kernel/failure";
import { defineUseCase, defineView, type Call } from "../kernel/defineUseCase";
import { attachFiles } from "../files/attachFiles";
import { idsNamed } from "../kernel/idsNamed";
import { carry, carryLightly } from "./carry";
import { keep, type Consequences, type Occasion } from "./keep";
import { mentionedIn } from "./mentioned";
import { makeRequest, type Started } from "./makeRequest";
import { pressable, pressed, type Press } from "./pressed";
import { proceduresAtHand } from "./proceduresAtHand";
import { releaseFor } from "./releases";
import { startHash } from "./startHash";

const NOTHING: Consequences = {
  changes: { tasks: [], setTimers: [], clearTimers: [], watches: [] },
  outside: [],
};

/**
 * Makes a request of the live release of a process.
 * @param startKey an idempotency key of this person's: a second start with the same key and the same values gives the
 *   first one's number, with others "already-sent". For a form it is the id of its draft, which goes when the request is made.
 * @param passed why checks that may be passed are gone on past, by what tells them apart
 * @param press what was pressed on a record's page; then who may press it counts, not who may ask by the form
 * @param outside for whom another program asks, where that is nobody who works here; "not-allowed" to people
 */
export const startRequest = defineUseCase(
  ["ask", "press", "ask for somebody outside"],
  (
    c,
    processKey: string,
    data: FormData,
    startKey: string | null = null,
    occasion?: Occasion,
    outside: { name: string; email: string } | null = null,
    press: Press | null = null,
    passed: Passed = {},
  ): Promise<Started> =>
    inTransaction(async (db) => {
      const { actor } = c;
      const row = await processes.liveRelease(db, processKey, true);
      if (!row || (!press && !c.may({ action: "ask", starts: row.released.starts, live: true })))
        throw new Failed({ code: "not-found", data: { what: "process", id: processKey } });
      const pressedOn = press && pressedBy(c, db, await loadDirectory(db), row, press);
      if (outside)
        c.must(
          { action: "ask for somebody outside" },
          { code: "not-allowed", data: { action: "ask for somebody who does not work here" } },
        );
      const beside = [...(outside ? [outside] : []), ...(press ? [press] : [])];
      const hash = startHash(processKey, beside.length > 0 ? [data, ...beside] : data);
      const ownKey = startKey ? `${actor.id}:${startKey}` : null;
      if (ownKey) {
        // The lock makes a second try wait for the first, instead of both finding nothing.
        await db.query("select pg_advisory_xact_lock(hashtextextended($1, 7))", [ownKey]);
        const earlier = await requests.requestByStartKey(db, ownKey);
        // Requests made before that was kept are taken at their key.
        if (earlier?.hash && !earlier.hash.equals(hash))
          throw new Failed({ code: "already-sent", data: { number: earlier.number } });
        if (earlier) return { id: "", number: earlier.number, ...NOTHING };
      }
      const given = await pressedOn?.(occasion?.at ?? (await nowMs(db)));
      const made = await makeRequest(db, row, {
        given,
        requester: outside ? askedThrough(actor, outside) : partyOf(actor),
        actor,
        data,
        startKey: ownKey,
        startHash: hash,
        occasion,
        passed,
      });
      if (startKey) await formDrafts.deleteDraft(db, startKey, actor.id);
      return made;
    }),
);

/** What somebody pressed, who may; and then what a request begins with by it, with the record held. */
const pressedBy = (c: Call, db: Db, d: Directory, row: ReleaseRow, press: Press) => {
  const by = pressable(c, d, definitionNow(row, d.registers), press.start);
  return (now: number) => pressed(db, c, d, by, press.record, now, true);
};

const askedThrough = (actor: Actor, { name, email }: { name: string; email: string }): Party => ({
  kind: "outside",
  name,
  email,
  through: actor.id,
});

interface Done extends Consequences {
  number: string;
  events: RequestEvent[];
  /** Why it is stuck now. */
  stuck: readonly Stuck[];
}
/** Commands that mostly write no records: tried without a lock first. */
const LIGHT: ReadonlySet<Command["type"]> = new Set([
  "answer",
  "take",
  "put back",
  "take back",
  "hand over",
  "ask",
  "time reached",
]);

/**
 * Carries out a command on a request. Deciding is pure, so most commands need no lock: what was decided is kept by
 * one statement if the request is still at the version it was decided on. Where it is not, or records or files are to
 * be written with it, the command is decided again with the row locked.
 */
export async function onRequest(
  c: Call,
  by: { id: string } | { number: string },
  command: Command,
  occasion?: Occasion,
): Promise<Done> {
  const about = aboutOf(command);
  const locked = (part: string | null) =>
    inTransaction(async (db) => {
      const done = await perform(c, db, by, command, { locked: true, about: part, occasion });
      if (!done) throw new Error("a locked request changed under its lock");
      return done;
    });
  try {
    const light = { locked: false, about, occasion };
    const quick = LIGHT.has(command.type) ? await perform(c, getPool(), by, command, light) : null;
    return quick ?? (await locked(about));
  } catch (e) {
    // It turned out to be about more than was read; of what was done in the transaction nothing is left.
    if (e instanceof NeedsWhole) return locked(null);
    throw e;
  }
}

/**
 * The same in the caller's transaction, with the row locked: for what is told to a request together with something else
 * that is kept.
 */
export async function commandIn(
  c: Call,
  db: Db,
  request: string,
  command: Command,
  occasion?: Occasion,
): Promise<void> {
  const done = await perform(c, db, { id: request }, command, { locked: true, about: null, occasion });
  if (!done) throw new Error("a locked request changed under its lock");
}

interface Performing {
  locked: boolean;
  /** What of a large request is read. */
  about: string | null;
  occasion: Occasion | undefined;
}

async function perform(
  c: Call,
  db: Db,
  by: { id: string } | { number: string },
  command: Command,
  { locked, about, occasion }: Performing,
): Promise<Done | null> {
  const row = await requests.requestForCommand(db, by, locked, about);
  const missing = { what: "request", id: "id" in by ? by.id : by.number };
  if (!row) throw new Failed({ code: "not-found", data: missing });
  await mustCommand(c, db, row, command, missing);
  const d = await loadDirectory(db, row.directory_version);
  const offset = Number(row.clock_offset);
  const release = await releaseFor(db, d, row.release_id);
  const procedures = await proceduresAtHand(db, d, release, row.state);
  const now = occasion?.at ?? Date.now() + offset;
  const on = {
    db,
    directory: d,
    release,
    procedures,
    request: row.id,
    now,
    alone: occasion !== undefined,
    via: viaText(c.actor.via),
    actor: c.actor,
    chain: row.chain,
  };
  const done = await (locked ? carry(on, row.state, command) : carryLightly(on, row.state, command));
  if (!done) return null;
  const fresh = filesSent(release, row.state, command, procedures, done.events);
  if (fresh.length > 0 && !locked) return null;
  const answered = command.type === "answer" ? command.task : null;
  if (done.events.length > 0) {
    const { number } = row;
    const mentioned = mentionedIn(d, release, { number, events: done.events }, c.actor);
    const who = { by: c.actor, beyond: d.beyond, mentioned };
    const how = { release, procedures, row, fresh: null, occasion, answered, ...who };
    const kept = await keep(db, done, how);
    if (!kept) return null;
  }
  if ("actor" in command && command.actor !== null) await attachFiles(db, fresh, command.actor, row.id);
  const { changes, outside, events } = done;
  return { number: row.number, changes, outside, events, stuck: done.state.stuck };
}

/** The files that come with an answer, in whatever procedure it is given; that may be over by then. */
function filesSent(
  release: CompiledRelease,
  before: RequestState,
  command: Command,
  procedures: ProceduresRead,
  events: readonly RequestEvent[],
): string[] {
  const level = command.type === "answer" ? levelOf(before, command.task) : null;
  if (!level || command.type !== "answer") return [];
  const { fields } = releaseAt(level, release, proceduresFrom(procedures)).definition;
  const named = idsNamed("file", fields, command.data);
  if (named.length === 0) return [];
  // What was not kept, because it may not be filled in there or is nothing its field can hold, stays theirs.
  const kept = JSON.stringify(events);
  return named.filter((id) => kept.includes(id));
}

/** What only the owners of a process may do with its requests. */
const WATCHING: ReadonlySet<Command["type"]> = new Set([
  "retry",
  "skip",
  "name",
  "remind",
  "change limit",
  "cancel",
  "reassign",
]);

/** What one may not see does not exist, for commands too; whether a task is theirs is the engine's to tell. */
async function mustCommand(
  c: Call,
  db: Db,
  row: requests.RequestRow,
  command: Command,
  missing: { what: string; id: string },
) {
  if (!("actor" in command)) return c.must({ action: "run jobs" }, { code: "not-found", data: missing });
  const answers = command.type === "answer" || command.type === "withdraw";
  c.must({ action: "command", answers }, { code: "not-found", data: missing });
  // Also whoever's cover is asked: it is theirs as well.
  const asked = allTasks(row.state).some((t) =>
    t.candidates.some((x) => x.person === c.actor.id || x.for === c.actor.id),
  );
  // Mostly the state tells already; only for somebody it does not name is the database asked.
  const known = asked || row.requester_id === c.actor.id;
  const owns = () => requests.isOwner(db, row.process_key, c.actor.id);
  const watches = WATCHING.has(command.type);
  const owner = watches || !known ? await owns() : false;
  const tookPart = known || owner ? asked : (await requests.tookPart(db, row.id, c.actor.id)).length > 0;
  c.must(
    { action: "see request", requester: row.requester_id, tookPart, owner },
    { code: "not-found", data: missing },
  );
  if (watches)
    c.must(
      { action: "watch", owner },
      { code: "not-allowed", data: { action: `${command.type} this request; its process owners may` } },
    );
}

/** What a person may ask of a request by its number. The engine checks that the task is theirs. */
export type PersonCommand = Exclude<
  Command,
  { type: "start" | "time reached" | "ask others" | "look" | "go on" | "effect done" | "effect failed" }
>;
type WithoutActor<C> = C extends { actor: string } ? Omit<C, "actor"> : never;

/** `stuck` says, in sentences, where the request cannot go on after it. */
export const act = defineUseCase(
  ["see request", "watch", "command"],
  async (
    c,
    number: string,
    command: WithoutActor<PersonCommand>,
    occasion?: Occasion,
  ): Promise<{ number: string; stuck: string[] } & Consequences> => {
    const done = await onRequest(c, { number }, { ...command, actor: c.actor.id } as Command, occasion);
    return { ...done, stuck: done.stuck.map((s) => stuckSentence(s.reason, KINDS)) };
  },
);

/**
 * Fires every timer of a request that is due, in order. Called by a worker, possibly twice for the same
 * timer or late: a timer that is gone from the state does nothing.
 */
export const fireTimers = defineView(
  ["run jobs"],
  async (c, requestId: string, occasion?: Occasion): Promise<{ fired: number } & Consequences> => {
    const moment = occasion ? at(occasion.at) : null;
    const due = c.may({ action: "run jobs" }) ? await requests.dueTimers(getPool(), requestId, moment) : [];
    const all: { fired: number } & Consequences = {
      fired: 0,
      changes: { tasks: [], setTimers: [], clearTimers: [], watches: [] },
      outside: [],
    };
    for (const timer of due) {
      const r = await onRequest(c, { id: requestId }, { type: "time reached", timer }, occasion);
      all.fired += r.events.length > 0 ? 1 : 0;
      all.changes.tasks.push(...r.changes.tasks);
      all.changes.setTimers.push(...r.changes.setTimers);
      all.changes.clearTimers.push(...r.changes.clearTimers);
      all.outside.push(...r.outside);
    }
    return all;
  },
);

/** Goes on with rounds of a request. Called by a worker; where none are left, or it is gone, it does nothing. */
export const goOn = defineView(["run jobs"], async (c, requestId: string): Promise<void> => {
  if (!c.may({ action: "run jobs" })) return;
  try {
    await onRequest(c, { id: requestId }, { type: "go on" });
  } catch (e) {
    if (!(e instanceof Failed) || e.failure.code !== "not-found") throw e;
  }
});

/** Looks whether what a request waits for has come. Called by a worker; where it waits for nothing, it does nothing. */
export const lookAt = defineView(["run jobs"], async (c, requestId: string): Promise<void> => {
  if (!c.may({ action: "run jobs" })) return;
  try {
    await onRequest(c, { id: requestId }, { type: "look" });
  } catch (e) {
    if (!(e instanceof Failed) || e.failure.code !== "not-found") throw e;
  }
});

/** Has all that wait for records looked at: whatever was missed is found so. */
export const lookEverywhere = defineView(["run jobs"], async (c): Promise<{ requests: number }> => {
  if (!c.may({ action: "run jobs" })) return { requests: 0 };
  const waiting = await requests.watchingRequests(getPool());
  for (const id of waiting) await lookAt(c.actor, id);
  return { requests: waiting.length };
});

/** Jobs for timers that wait at once, more than workers do in half a second; then more follow. */
const MOST_WAITING = 500;

/** Has timers that are due fired by workers. Asked again and again by every worker; each timer is queued once. */
export const queueDueTimers = defineView(["run jobs"], async (c): Promise<{ queued: number }> => {
  if (!c.may({ action: "run jobs" })) return { queued: 0 };
  const db = getPool();
  return { queued: await jobs.queueDueTimers(db, at(Date.now() + (await clockOffset(db)))!, MOST_WAITING) };
});
