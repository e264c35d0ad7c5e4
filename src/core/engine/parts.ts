import type { Command } from "./commands";
import { allTasks, inCall } from "./callIds";
import { isOfStep, isOpen, type Call, type RequestState, type Task } from "./state";

/**
 * A large request is kept in parts, so that a command reads and writes what it is about: one for each round that is under
 * way, some for the tasks of a visit of very many, some for what is over, and the request itself with everything else.
 */
const MAPS = ["tokens", "visits", "tasks", "timers", "pending", "scopes", "runs", "sleeps", "calls"] as const;
type Maps = Pick<RequestState, (typeof MAPS)[number]>;

export interface Part extends Maps {
  id: string;
  /** The part around it; null for the request itself. */
  parent: string | null;
  /** Some of very many tasks of one visit: read whenever what is around it is. */
  beside: boolean;
  /** Tasks nobody answers any more. No command reads it. */
  past: boolean;
}

/** What is to be written of a large request. */
export interface PartsChanged {
  /** The request itself, without what stands in parts. */
  root: RequestState;
  written: Part[];
  gone: string[];
}

/** Tasks that stand in one part, where a visit has more of them than this. */
export const TASKS_IN_PART = 64;

/** Rounds and tasks from which on a request is kept in parts. */
const MANY = 16;

export const isForParts = (s: RequestState): boolean =>
  Object.keys(s.scopes).length >= MANY || allTasks(s).length >= MANY;

/**
 * What a command is about: a token, task, timer or effect, whose part is read with those around it. Null where it may be
 * about anything: then all parts are.
 */
export function aboutOf(c: Command): string | null {
  switch (c.type) {
    case "answer":
    case "take":
    case "put back":
    case "take back":
    case "hand over":
    case "ask":
    case "reassign":
    case "remind":
    case "change limit":
      return c.task;
    case "time reached":
      return c.timer;
    case "effect done":
      return c.effect.id;
    case "effect failed":
      return c.effect;
    case "retry":
    case "name":
    case "skip":
      return c.token;
    case "start":
    case "withdraw":
    case "cancel":
    case "call off":
    case "ask others":
    case "look":
    case "remove files":
    case "go on":
    // Which round it is in is told by no id of a part; it is seldom.
    case "not delivered":
    case "replied":
      return null;
  }
}

/** Ids by which a part is found. */
export const heldBy = (p: Pick<Maps, "tokens" | "tasks" | "timers" | "pending" | "calls">): string[] => [
  ...[p.tokens, p.tasks, p.timers, p.pending].flatMap((map) => Object.keys(map)),
  ...Object.values(p.calls).flatMap((c) => heldBy(c.state).map((id) => inCall(c.id, id))),
];

/** The earliest limit of what waits for somebody, or of what it is in; null for none. */
export function dueOf({
  tasks,
  calls,
  spans = {},
}: Pick<RequestState, "tasks" | "calls" | "spans">): number | null {
  let due: number | null = null;
  for (const s of Object.values(spans)) if (s.due !== null && (due === null || s.due < due)) due = s.due;
  for (const { state } of Object.values(calls)) {
    const inner = dueOf(state);
    if (inner !== null && (due === null || inner < due)) due = inner;
  }
  for (const t of Object.values(tasks))
    if (isOpen(t) && t.due !== null && (due === null || t.due < due)) due = t.due;
  return due;
}

/** "k12" is 12, and so is a timer "v12.r1". */
function numberOf(id: string): number {
  // Asked of every task of thousands: a pattern takes ten times as long.
  let n = 0;
  for (let i = 1; i < id.length; i++) {
    const digit = id.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) break;
    n = n * 10 + digit;
  }
  return n;
}

/**
 * Tasks that no command and no formula reads any more: of visits that have ended, but for the answers given when a step
 * was decided last in a round that is still under way (`x.answers`).
 */
function pastTasks(s: RequestState): ReadonlySet<Task> {
  const ended = Object.values(s.tasks).filter((t) => !(t.visit in s.visits));
  const last = new Map<string, Task>();
  const readable = (t: Task) =>
    t.status === "answered" && isOfStep(t) && (t.scope === undefined || t.scope in s.scopes);
  for (const t of ended) {
    if (!readable(t)) continue;
    const key = `${t.scope ?? ""} ${t.step}`;
    const known = last.get(key);
    if (!known || numberOf(t.visit) > numberOf(known.visit)) last.set(key, t);
  }
  return new Set(
    ended.filter((t) => !readable(t) || last.get(`${t.scope ?? ""} ${t.step}`)?.visit !== t.visit),
  );
}

/** What no command reads any more: such tasks, and procedures that have ended with all their tasks. */
function pastOf(s: RequestState): ReadonlySet<Task | Call> {
  const past = new Set<Task | Call>(pastTasks(s));
  for (const c of Object.values(s.calls)) if (c.over && !allTasks(c.state).some(isOpen)) past.add(c);
  return past;
}

/** In which part something stands; null for the request itself. */
function partOf(s: RequestState, map: keyof Maps, id: string): string | null {
  switch (map) {
    case "tasks": {
      const t = s.tasks[id]!;
      return t.wide ? `${t.visit}/${Math.floor(numberOf(t.id) / TASKS_IN_PART)}` : (t.scope ?? null);
    }
    case "tokens":
    case "visits":
    case "runs":
    case "sleeps":
    case "calls":
      return s[map][id]!.scope ?? null;
    case "scopes":
      return id;
    case "timers": {
      const of = s.timers[id]!.visit;
      return (s.visits[of] ?? s.sleeps[of])?.scope ?? null;
    }
    case "pending":
      return s.tokens[s.pending[id]!.token]?.scope ?? null;
  }
}

const emptyMaps = (): { [K in keyof Maps]: Record<string, Maps[K][string]> } => ({
  tokens: {},
  visits: {},
  tasks: {},
  timers: {},
  pending: {},
  scopes: {},
  runs: {},
  sleeps: {},
  calls: {},
});

function put(into: Maps, map: keyof Maps, id: string, thing: unknown) {
  (into[map] as Record<string, unknown>)[id] = thing;
}

/**
 * What a command changed, part by part.
 * @param before what was read of it; null where it was not kept in parts until now
 */
export function partsChanged(before: RequestState | null, after: RequestState): PartsChanged {
  const past = pastOf(after);
  const wasPast = before ? pastOf(before) : new Set<Task | Call>();
  const dirty = new Set<string | null>();
  const had = new Set<string>();
  if (before)
    for (const map of MAPS)
      for (const id of Object.keys(before[map])) {
        if (wasPast.has(before[map][id] as Task | Call)) continue;
        const part = partOf(before, map, id);
        if (part !== null) had.add(part);
        if (before[map][id] !== after[map][id]) dirty.add(part);
      }
  const { partial: _, ...whole } = after;
  const root = { ...whole, ...emptyMaps() };
  const parts = new Map<string, ReturnType<typeof emptyMaps>>();
  const besides = new Map<string, string | null>();
  const fresh = emptyMaps();
  for (const map of MAPS)
    for (const [id, thing] of Object.entries(after[map])) {
      if (past.has(thing as Task | Call)) {
        if (!wasPast.has(before?.[map][id] as Task | Call)) put(fresh, map, id, thing);
        continue;
      }
      const part = partOf(after, map, id);
      if (before?.[map][id] !== thing) dirty.add(part);
      if (part !== null && !parts.has(part)) parts.set(part, emptyMaps());
      if (part !== null && map === "tasks" && (thing as Task).wide)
        besides.set(part, (thing as Task).scope ?? null);
      put(part === null ? root : parts.get(part)!, map, id, thing);
    }
  const written: Part[] = [...parts]
    .filter(([id]) => dirty.has(id))
    .map(([id, maps]) => {
      const beside = besides.has(id);
      const parent = (beside ? besides.get(id) : after.scopes[id]?.parent) ?? null;
      return { id, parent, beside, past: false, ...maps };
    });
  // Never read to be added to: each command that ends tasks leaves a part of its own.
  if (Object.keys(fresh.tasks).length + Object.keys(fresh.calls).length > 0)
    written.push({ id: `past ${after.seq}`, parent: null, beside: false, past: true, ...fresh });
  return { root, written, gone: [...had].filter((id) => !parts.has(id)) };
}

/**
 * Puts a request together again.
 * @param all whether these are all of its parts
 */
export function joinParts(
  root: RequestState,
  parts: readonly Partial<RequestState>[],
  all: boolean,
): RequestState {
  const out = { ...root, ...(all ? {} : { partial: true as const }) };
  for (const map of MAPS) {
    const all = [root, ...parts].flatMap((p) =>
      Object.entries(p[map] ?? {}).map(([id, thing]) => ({ n: numberOf(id), id, thing })),
    );
    // In the order in which they came, as if they had never been apart: what goes through all of them goes by it.
    all.sort((a, b) => a.n - b.n);
    Object.assign(out, { [map]: Object.fromEntries(all.map(({ id, thing }) => [id, thing])) });
  }
  return out;
}
