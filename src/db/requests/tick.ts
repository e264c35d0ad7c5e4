import { accountOf } from "@/core/form";
import type { Db } from "../pool";
import { inCall, type Projections, type RequestEvent, type RequestState } from "@/core/engine";

/** What is told to web processes when a request changed: enough to know which pages may show it, and no contents. */
export interface Tick {
  number: string;
  /** Whose own pages may show it; null where that may be anybody's. */
  people: readonly string[] | null;
}

/** PostgreSQL carries up to 8000 bytes in a notification. */
const MAX_BYTES = 7000;
/** What these change may stand on pages of people that no task names: who reads a record, who had the task before, who owns the process. */
const ANYBODY = new Set(["effect done", "task handed over", "got stuck", "reminded"]);

interface Changed {
  state: RequestState;
  events: RequestEvent[];
  changes: Projections;
  told: readonly { effect: string; people: readonly string[] }[];
}

/** The tick of a change: the requester, who did it, everybody whose task it touched, and those told of something. */
export function tickOf(c: Changed): string {
  const { number, requester } = c.state;
  const involved = new Set<string>();
  const account = accountOf(requester);
  if (account !== null) involved.add(account);
  for (const e of c.events) if (e.by) involved.add(e.by);
  for (const t of c.changes.tasks) for (const p of t.candidates) involved.add(p.person);
  for (const t of c.told) for (const p of t.people) involved.add(p);
  const notices = new Set(c.told.map((t) => t.effect));
  const anybody: Tick = { number, people: null };
  if (c.events.some((e) => concernsAnybody(e, notices, (id) => id))) return JSON.stringify(anybody);
  const some = JSON.stringify({ number, people: [...involved] } satisfies Tick);
  return Buffer.byteLength(some) > MAX_BYTES ? JSON.stringify(anybody) : some;
}

/** @param outside the id by which an effect in a procedure is known outside of it */
function concernsAnybody(
  e: RequestEvent,
  notices: ReadonlySet<string>,
  outside: (id: string) => string,
): boolean {
  if (e.type === "in call") return concernsAnybody(e.event, notices, (id) => outside(inCall(e.call, id)));
  return ANYBODY.has(e.type) && !(e.type === "effect done" && notices.has(outside(e.effect)));
}

/** Tells web processes that something about a request changed which its state does not tell. */
export const tick = (db: Db, number: string, people: readonly string[] | null) =>
  db.query("select pg_notify('changed', $1)", [JSON.stringify({ number, people } satisfies Tick)]);

/** A tick as it came in; of what cannot be read anybody's page looks again. */
export function readTick(payload: string): Tick {
  try {
    const t = JSON.parse(payload) as Tick;
    if (typeof t.number === "string") return { number: t.number, people: t.people ?? null };
  } catch {
    // Falls through to the tick of everybody.
  }
  return { number: "", people: null };
}
