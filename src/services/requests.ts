import {
  NEW_REQUEST,
  type Command,
  type CompiledRelease,
  type Effect,
  type RequestEvent,
  type TellEffect,
} from "@/core/engine";
import type { FormData } from "@/core/form";
import { at, formDrafts, getPool, inTransaction, notices, processes, requests, type Db } from "@/db";
import { actorOf, type Actor } from "./actor";
import { carry, type Carried } from "./carry";
import { clockOffset } from "./clock";
import { loadDirectory } from "./directory";
import { filesNamed } from "./fileFacts";
import { attachFiles } from "./files";
import { Failed, outcome, type Outcome } from "./failure";
import { can } from "./policy";
import { releaseFor } from "./releases";

/** When a command happens. Seeding passes its own clock and delivers by itself; everything else leaves it out. */
export interface Occasion {
  at: number;
  /** Jobs are added by the caller later. */
  withoutJobs: true;
}

const stepNames = (r: CompiledRelease): Record<string, string> =>
  Object.fromEntries([...r.places].map(([id, p]) => [id, p.step.name]));

async function keep(
  db: Db,
  release: CompiledRelease,
  row: Pick<requests.RequestRow, "id" | "version"> | null,
  fresh: requests.NewRequest | null,
  c: Carried,
  offset: number,
  occasion?: Occasion,
  answered: string | null = null,
): Promise<string | null> {
  const jobs = occasion ? null : { offset };
  return requests.saveRequest(
    db,
    requests.changeOf(
      row?.id ?? null,
      row?.version ?? 0,
      fresh,
      c.title,
      c.state,
      c.events,
      c.effects,
      stepNames(release),
      jobs,
      answered,
    ),
  );
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
export function startRequest(
  actor: Actor,
  processKey: string,
  data: FormData,
  startKey: string | null = null,
  occasion?: Occasion,
): Promise<Outcome<Started>> {
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
      const c = await carry(
        db,
        d,
        release,
        null,
        NEW_REQUEST,
        { type: "start", actor: actor.id, requester: actor.id, number, data },
        now,
        true,
      );
      const id = await keep(
        db,
        release,
        null,
        { number, process: processKey, release: row.id, startKey: ownKey },
        c,
        offset,
        occasion,
      );
      if (id === null) throw new Error(`request ${number} was not written`);
      await attachFiles(db, filesNamed(release.definition.fields, c.state.data), actor.id, id);
      if (startKey) await formDrafts.deleteDraft(db, startKey, actor.id);
      return { id, number, effects: c.effects };
    }),
  );
}

interface Done {
  number: string;
  effects: Effect[];
  events: RequestEvent[];
}
/** Commands of people that mostly write no records: tried without a lock first. */
const LIGHT: ReadonlySet<Command["type"]> = new Set(["answer", "take", "put back", "hand over"]);

/**
 * Carries out a command on a request. Deciding is pure, so most commands need no lock: what was decided is kept by
 * one statement if the request is still at the version it was decided on. Where it is not, or records or files are to
 * be written with it, the command is decided again with the row locked.
 */
async function onRequest(
  by: { id: string } | { number: string },
  command: Command,
  occasion?: Occasion,
): Promise<Done> {
  const quick = LIGHT.has(command.type) ? await perform(getPool(), by, command, false, occasion) : null;
  return (
    quick ??
    inTransaction(async (db) => {
      const done = await perform(db, by, command, true, occasion);
      if (!done) throw new Error("a locked request changed under its lock");
      return done;
    })
  );
}

async function perform(
  db: Db,
  by: { id: string } | { number: string },
  command: Command,
  locked: boolean,
  occasion?: Occasion,
): Promise<Done | null> {
  const row = await requests.requestForCommand(db, by, locked);
  if (!row)
    throw new Failed({ code: "not-found", data: { what: "request", id: "id" in by ? by.id : by.number } });
  if (command.type === "retry" || command.type === "skip" || command.type === "cancel") {
    const owner = await requests.isOwner(db, row.process_key, command.actor);
    const actor = await actorOf(db, command.actor);
    if (!can(actor, { action: "watch", owner }))
      throw new Failed({
        code: "not-allowed",
        data: { action: `${command.type} this request; its process owners may` },
      });
  }
  const d = await loadDirectory(db, row.directory_version);
  const offset = Number(row.clock_offset);
  const release = await releaseFor(db, d, row.release_id);
  const c = await carry(
    db,
    d,
    release,
    row.id,
    row.state,
    command,
    occasion?.at ?? Date.now() + offset,
    locked,
  );
  if (!c) return null;
  const before = new Set(filesNamed(release.definition.fields, row.state.data));
  const fresh = filesNamed(release.definition.fields, c.state.data).filter((id) => !before.has(id));
  if (fresh.length > 0 && !locked) return null;
  if (
    c.events.length > 0 &&
    !(await keep(
      db,
      release,
      row,
      null,
      c,
      offset,
      occasion,
      command.type === "answer" ? command.task : null,
    ))
  )
    return null;
  if ("actor" in command) await attachFiles(db, fresh, command.actor, row.id);
  return { number: row.number, effects: c.effects, events: c.events };
}

/** What a person may ask of a request by its number. The engine checks that the task is theirs. */
export type PersonCommand = Exclude<
  Command,
  { type: "start" | "time reached" | "effect done" | "effect failed" }
>;
type WithoutActor<C> = C extends { actor: string } ? Omit<C, "actor"> : never;

export function act(
  actor: Actor,
  number: string,
  command: WithoutActor<PersonCommand>,
  occasion?: Occasion,
): Promise<Outcome<{ number: string; effects: Effect[] }>> {
  return outcome(() => onRequest({ number }, { ...command, actor: actor.id } as Command, occasion));
}

/**
 * Fires every timer of a request that is due, in order. Called by a worker, possibly twice for the same
 * timer or late: a timer that is gone from the state does nothing.
 */
export async function fireTimers(
  requestId: string,
  occasion?: Occasion,
): Promise<{ fired: number; effects: Effect[] }> {
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
export async function deliverNotice(
  requestId: string,
  effect: TellEffect,
  occasion?: Occasion,
): Promise<void> {
  await inTransaction(async (db) => {
    const row = await requests.requestForCommand(db, { id: requestId }, true);
    if (!row) return;
    const offset = Number(row.clock_offset);
    const now = occasion?.at ?? Date.now() + offset;
    let fresh = 0;
    for (const person of effect.people)
      if (
        await notices.insertNotice(db, {
          person,
          request: requestId,
          effectKey: `${requestId}:${effect.id}`,
          subject: effect.subject,
          body: effect.text,
          at: at(now)!,
        })
      )
        fresh++;
    if (fresh === 0) return;
    const d = await loadDirectory(db, row.directory_version);
    const release = await releaseFor(db, d, row.release_id);
    const c = await carry(
      db,
      d,
      release,
      requestId,
      row.state,
      { type: "effect done", effect: effect.id, people: effect.people },
      now,
      true,
    );
    await keep(db, release, row, null, c, offset, occasion);
  });
}
