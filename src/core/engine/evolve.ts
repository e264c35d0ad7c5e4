import { isOpen, type RequestState, type Task } from "./state";
import { changedPaths } from "./changedPaths";
import type { RequestEvent } from "./events";

const without = <T>(record: Readonly<Record<string, T>>, key: string): Record<string, T> => {
  const { [key]: _gone, ...rest } = record;
  return rest;
};
const idNumber = (id: string): number => Number(/\d+$/.exec(id)?.[0] ?? 0);

/** The next state. Total: an event about something unknown changes only the sequence number. */
export function evolve(state: RequestState, e: RequestEvent): RequestState {
  const s: RequestState = { ...state, seq: e.seq };
  const task = (id: string, change: (t: Task) => Task): RequestState => {
    const t = s.tasks[id];
    return t ? { ...s, tasks: { ...s.tasks, [id]: change(t) } } : s;
  };
  const grown = (...ids: string[]) => Math.max(s.lastId, ...ids.map(idNumber));
  switch (e.type) {
    case "request started":
      return {
        ...s,
        status: "under way",
        requester: e.requester,
        number: e.number,
        startedAt: e.at,
        data: e.data,
      };
    case "data changed":
    case "values set":
      return {
        ...s,
        data: { ...s.data, ...e.data },
        changedAt: {
          ...s.changedAt,
          ...Object.fromEntries(changedPaths(s.data, e.data).map((path) => [path, e.seq])),
        },
      };
    case "records kept":
      return { ...s, kept: { ...s.kept, [e.step]: e.records } };
    case "token placed":
      return {
        ...s,
        lastId: grown(e.token),
        tokens: { ...s.tokens, [e.token]: { id: e.token, step: e.step, parent: e.parent, branch: e.branch } },
      };
    case "token moved": {
      const t = s.tokens[e.token];
      return t ? { ...s, tokens: { ...s.tokens, [e.token]: { ...t, step: e.step } } } : s;
    }
    case "branch ended":
      return { ...s, tokens: without(s.tokens, e.token) };
    case "visit opened":
      return { ...s, lastId: grown(e.visit.id), visits: { ...s.visits, [e.visit.id]: e.visit } };
    case "task opened":
      return { ...s, lastId: grown(e.task.id), tasks: { ...s.tasks, [e.task.id]: e.task } };
    case "decider added": {
      const v = s.visits[e.task.visit];
      return {
        ...s,
        lastId: grown(e.task.id),
        tasks: { ...s.tasks, [e.task.id]: e.task },
        visits: v ? { ...s.visits, [v.id]: { ...v, asked: v.asked + 1 } } : s.visits,
      };
    }
    case "task taken":
      return task(e.task, (t) => ({ ...t, holder: e.by, status: "taken" }));
    case "task put back":
      return task(e.task, (t) => ({ ...t, holder: null, status: "open" }));
    case "task handed over":
      return task(e.task, (t) => ({
        ...t,
        candidates: e.to,
        holder: e.to.length === 1 ? e.to[0]!.person : null,
        status: "open",
      }));
    case "answer given":
      return task(e.task, (t) => ({
        ...t,
        status: "answered",
        answer: e.answer,
        note: e.note,
        endedAt: e.at,
        ...(e.by ? { by: e.by } : {}),
      }));
    case "task closed": {
      const after = task(e.task, (t) => (isOpen(t) ? { ...t, status: "closed", endedAt: e.at } : t));
      const v =
        e.reason === "merged" || e.reason === "left" ? s.visits[s.tasks[e.task]?.visit ?? ""] : undefined;
      return v ? { ...after, visits: { ...s.visits, [v.id]: { ...v, asked: v.asked - 1 } } } : after;
    }
    case "step decided":
      return {
        ...s,
        visits: without(s.visits, e.visit),
        outcomes: { ...s.outcomes, [e.step]: { answer: e.label, note: e.note, by: e.by, at: e.at } },
      };
    case "returned for changes":
    case "visit given up":
    case "changes sent":
      return { ...s, visits: without(s.visits, e.visit) };
    case "effect asked": {
      const { id, step, kind } = e.effect;
      const lastId = grown(id);
      if (e.token === null) return { ...s, lastId };
      return { ...s, lastId, pending: { ...s.pending, [id]: { id, token: e.token, step, kind } } };
    }
    case "effect done":
    case "effect failed":
      return { ...s, pending: without(s.pending, e.effect) };
    case "step did":
    case "way chosen":
    case "reminded":
    case "values blanked":
      return s;
    case "limit changed": {
      const v = s.visits[e.visit];
      if (!v) return s;
      const tasks = Object.entries(s.tasks).map(([id, t]) => [
        id,
        t.visit === e.visit && isOpen(t) ? { ...t, due: e.due } : t,
      ]);
      return {
        ...s,
        visits: { ...s.visits, [e.visit]: { ...v, due: e.due } },
        tasks: Object.fromEntries(tasks),
      };
    }
    case "timer set":
      return { ...s, timers: { ...s.timers, [e.timer.id]: e.timer } };
    case "timer cleared":
    case "rung fired":
      return { ...s, timers: without(s.timers, e.timer) };
    case "got stuck":
      return {
        ...s,
        status: "stuck",
        stuck: [
          ...s.stuck,
          { token: e.token, step: e.step, reason: e.reason, ...(e.effect ? { effect: e.effect } : {}) },
        ],
      };
    case "got unstuck": {
      const stuck = s.stuck.filter((x) => x.token !== e.token);
      return { ...s, stuck, status: stuck.length > 0 ? "stuck" : "under way" };
    }
    case "request finished":
      return { ...ended(s, "finished", e.at), result: { name: e.result, tone: e.tone } };
    case "request withdrawn":
      return ended(s, "withdrawn", e.at);
    case "request cancelled":
      return ended(s, "cancelled", e.at);
  }
  // What is stored is brought up to date when it is read; an event nobody knows must not be passed over.
  throw new Error(`there is no event "${(e satisfies never as RequestEvent).type}"`);
}

const ended = (s: RequestState, status: RequestState["status"], at: number): RequestState => ({
  ...s,
  status,
  endedAt: at,
  tokens: {},
  visits: {},
  timers: {},
  pending: {},
  stuck: [],
});

export const replay = (events: readonly RequestEvent[], from: RequestState): RequestState =>
  events.reduce(evolve, from);
