import { colleagueOf, emailKey, followerOf, type Party } from "../form";
import type { Kinds } from "../kinds";
import type { Gone, RequestEvent } from "./events";
import type { CompiledRelease } from "./release";
import { inCall } from "./callIds";
import { NO_PROCEDURES, type Procedures } from "./facts";
import { isOpen, NEW_REQUEST, type Candidate, type RequestState, type Stuck, type Task } from "./state";

/**
 * What people are told of without the process saying so, and what is known of it. Steps are told by name; `about` is the
 * round a task is of, apart from the rest because it may tell of values that are forgotten one day.
 */
export interface NewsFacts {
  /** A task came to somebody. */
  "task came": { step: string; about?: string; due: number | null };
  /** It came because they cover for somebody. */
  covering: { step: string; about?: string; for: string };
  /** One that others had before. `by` is null where nobody handed it over; then `why` says how it came. */
  "handed over": {
    step: string;
    about?: string;
    by: string | null;
    why: "person" | "ladder" | Gone;
  };
  /** It is theirs again, with what whoever they handed it to would answer. */
  "came back": { step: string; about?: string; by: string };
  /** It is with somebody else now. */
  "handed away": { step: string; about?: string; to: string[] };
  /** The requester is asked for changes. */
  "sent back": { step: string; about?: string; by: string | null };
  "called off": {
    step: string;
    why: "decided" | "ended" | "returned" | "enough" | "gone" | "merged" | "ladder";
  };
  reminded: { step: string; about?: string; by: string | null };
  /** Whoever has a task asks them something beside it. */
  "asked something": { step: string; about?: string; by: string };
  /** What they asked is answered; `by` null where nobody is there any more to do it. */
  "answer came": { step: string; about?: string; by: string | null };
  /** For the owners of the process. */
  stuck: { step: string };
  /** For the owners, too, where the step says nothing of what is done then. */
  "not delivered": { step: string; to: string };
  /** For who asked. */
  "held up": { step: string };
  ended: { status: "finished" | "cancelled"; result: string };
  /** Somebody mentioned them in a note on a request, by its number, or on a record, which was called so then. */
  mentioned: { by: string; on: string };
}
export type NewsKind = keyof NewsFacts;

/** News for one person, or for the owners of the process (`to` null). `seq` is the event it comes from. */
export type News = {
  [K in NewsKind]: { kind: K; to: string | null; task: string | null; seq: number; facts: NewsFacts[K] };
}[NewsKind];

const peopleOf = (t: Task): Candidate[] =>
  t.holder === null ? t.candidates : t.candidates.filter((c) => c.person === t.holder);

/**
 * Who is to be told what, of everything one command caused: what stands between the two states, so that a task that came
 * and went within it is no news. Whoever gave the command is not told of it.
 */
export function newsOf(
  release: CompiledRelease,
  before: RequestState,
  after: RequestState,
  events: readonly RequestEvent[],
  procedures: Procedures = NO_PROCEDURES,
): News[] {
  const out: News[] = [];
  const actor = events.find((e) => e.by !== null)?.by ?? null;
  const add = (n: News) => {
    if (n.to === null || n.to !== actor) out.push(n);
  };
  const stepName = (id: string) => release.places.get(id)?.step.name ?? id;
  // A reminder leaves the task as it is: events tell which tasks there is news of.
  const byTask = new Map<string, RequestEvent[]>();
  for (const e of events) {
    const id = taskOf(e);
    if (id !== null) byTask.set(id, [...(byTask.get(id) ?? []), e]);
  }
  for (const [id, of] of byTask) {
    const task = after.tasks[id];
    if (!task) continue;
    const was = before.tasks[task.id];
    for (const n of answerCame(after, task, of, stepName(task.step))) add(n);
    for (const n of newsOfTask(was && isOpen(was) ? was : null, task, of, events, stepName)) add(n);
  }
  for (const n of newsInside(before, after, events, procedures)) add(n);
  // Who asked and reads no notices is told nothing here; "to nobody" would mean the owners.
  const asker = colleagueOf(after.requester) ?? followerOf(after.requester);
  const fresh = after.stuck.filter((s) => !before.stuck.some((x) => sameStuck(x, s)));
  for (const s of fresh) {
    const at = events.findLast((e) => e.type === "got stuck" && e.token === s.token)?.seq ?? after.seq;
    const step = stepName(s.step);
    add({ kind: "stuck", to: null, task: null, seq: at, facts: { step } });
    // Also where it was their own doing: that it got no further is not what they did.
    if (asker !== null) out.push({ kind: "held up", to: asker, task: null, seq: at, facts: { step } });
  }
  for (const e of events) {
    if (e.type !== "not delivered" || events.some((x) => x.type === "list sent out" && x.of === e.step))
      continue;
    add({
      kind: "not delivered",
      to: null,
      task: null,
      seq: e.seq,
      facts: { step: stepName(e.step), to: e.to },
    });
  }
  const ended = before.endedAt === null ? endOf(events) : null;
  // Where the process tells them itself, that says it better.
  const told = asker === null || events.some((e) => tells(e, release.kinds, after.requester));
  if (ended && !told) add({ ...ended, to: asker });
  return out;
}

/** Whether a step, in whatever procedure, tells whoever asked: by their account, or by their address outside. */
function tells(e: RequestEvent, kinds: Kinds, asker: Party): boolean {
  if (e.type === "in call") return tells(e.event, kinds, asker);
  if (e.type !== "effect asked") return false;
  const told = kinds.steps[e.effect.kind].tells?.(e.effect) ?? [];
  return told.some((r) => {
    if ("person" in r) return asker.kind === "person" && r.person === asker.id;
    return asker.kind === "outside" && asker.email !== "" && emailKey(r.email) === emailKey(asker.email);
  });
}

/** News of tasks in procedures; what stops or ends them is told as news of the request. */
function newsInside(
  before: RequestState,
  after: RequestState,
  events: readonly RequestEvent[],
  procedures: Procedures,
): News[] {
  const byCall = new Map<string, { seq: number; event: RequestEvent }[]>();
  for (const e of events)
    if (e.type === "in call")
      byCall.set(e.call, [...(byCall.get(e.call) ?? []), { seq: e.seq, event: e.event }]);
  return [...byCall].flatMap(([id, inside]) => {
    // One of which nothing is kept had no tasks.
    const call = after.calls[id];
    const release = call && procedures.byId(call.release);
    if (!call || !release) return [];
    const was = before.calls[id]?.state ?? NEW_REQUEST;
    const outer = new Map(inside.map((x) => [x.event.seq, x.seq]));
    const news = newsOf(
      release,
      was,
      call.state,
      inside.map((x) => x.event),
      procedures,
    );
    return news.flatMap((n): News[] =>
      n.task !== null || n.kind === "not delivered"
        ? [{ ...n, task: n.task && inCall(id, n.task), seq: outer.get(n.seq) ?? after.seq }]
        : [],
    );
  });
}

const sameStuck = (a: Stuck, b: Stuck): boolean =>
  a.token === b.token && a.step === b.step && a.reason.code === b.reason.code;

/** The task an event is about; null where it is about none. */
export function taskOf(e: RequestEvent): string | null {
  if (e.type === "task opened" || e.type === "decider added" || e.type === "question asked") return e.task.id;
  return "task" in e && typeof e.task === "string" ? e.task : null;
}

function newsOfTask(
  was: Task | null,
  is: Task,
  of: readonly RequestEvent[],
  all: readonly RequestEvent[],
  stepName: (id: string) => string,
): News[] {
  const step = { step: stepName(is.step), ...(is.about ? { about: is.about } : {}) };
  const about = { task: is.id, seq: of.at(-1)?.seq ?? 0 };
  if (!isOpen(is)) return was ? closingNews(was, is, of, step) : [];
  if (!was) {
    if (of.length === 0) return [];
    const by =
      is.purpose === "changes"
        ? (all.findLast((e) => e.type === "returned for changes" && e.step === is.step)?.by ?? null)
        : null;
    const { question } = is;
    return is.candidates.map((c): News => {
      if (question)
        return { kind: "asked something", to: c.person, ...about, facts: { ...step, by: question.by } };
      if (is.purpose === "changes")
        return { kind: "sent back", to: c.person, ...about, facts: { ...step, by } };
      return c.for
        ? { kind: "covering", to: c.person, ...about, facts: { ...step, for: c.for } }
        : { kind: "task came", to: c.person, ...about, facts: { ...step, due: is.due } };
    });
  }
  const moved = of.findLast((e) => e.type === "task handed over");
  const out: News[] = [];
  if (moved) {
    const had = new Set(peopleOf(was).map((c) => c.person));
    const has = new Set(is.candidates.map((c) => c.person));
    for (const c of is.candidates) {
      if (was.candidates.some((x) => x.person === c.person)) continue;
      const facts = { ...step, by: moved.by, why: whyMoved(moved) };
      out.push({ kind: "handed over", to: c.person, ...about, facts });
    }
    for (const p of had)
      if (!has.has(p)) out.push({ kind: "handed away", to: p, ...about, facts: { ...step, to: [...has] } });
  }
  const proposed = of.findLast((e) => e.type === "answer proposed");
  if (proposed)
    for (const c of is.candidates)
      out.push({ kind: "came back", to: c.person, ...about, facts: { ...step, by: proposed.by ?? "" } });
  const reminded = of.findLast((e) => e.type === "reminded");
  if (reminded)
    for (const c of peopleOf(is))
      out.push({ kind: "reminded", to: c.person, ...about, facts: { ...step, by: reminded.by } });
  return out;
}

/** What somebody asked is answered, or will not be: told to whoever has the task it was asked at. */
function answerCame(
  after: RequestState,
  is: Task,
  of: readonly RequestEvent[],
  step: string,
): Extract<News, { kind: "answer came" }>[] {
  const asked = is.question && after.tasks[is.question.of];
  const given = of.findLast((e) => e.type === "answer given");
  const left = of.some((e) => e.type === "task closed" && e.reason === "left");
  if (!asked || !isOpen(asked) || (!given && !left)) return [];
  const facts = { step, ...(is.about ? { about: is.about } : {}), by: given?.by ?? null };
  const { id: task } = asked;
  const { seq } = of.at(-1)!;
  return peopleOf(asked).map((c) => ({ kind: "answer came", to: c.person, task, seq, facts }));
}

function whyMoved(e: Extract<RequestEvent, { type: "task handed over" }>): NewsFacts["handed over"]["why"] {
  if (e.gone) return e.gone;
  return e.rung ? "ladder" : "person";
}

interface OfStep {
  step: string;
  about?: string;
}

/** Those who had a task that ended without them. That a colleague answered one they shared is no news. */
function closingNews(was: Task, is: Task, of: readonly RequestEvent[], step: OfStep): News[] {
  const closed = of.findLast((e) => e.type === "task closed");
  const given = of.findLast((e) => e.type === "answer given");
  const why = given?.automatic ? "ladder" : closed?.reason;
  // Whoever has left reads no news.
  if (why === undefined || why === "left") return [];
  const about = { task: is.id, seq: of.at(-1)?.seq ?? 0 };
  return peopleOf(was).map((c) => ({ kind: "called off", to: c.person, ...about, facts: { ...step, why } }));
}

function endOf(events: readonly RequestEvent[]): Extract<News, { kind: "ended" }> | null {
  const e = events.findLast((x) => x.type === "request finished" || x.type === "request cancelled");
  if (!e) return null;
  const facts =
    e.type === "request finished"
      ? ({ status: "finished", result: e.result } as const)
      : ({ status: "cancelled", result: "" } as const);
  return { kind: "ended", to: null, task: null, seq: e.seq, facts };
}
