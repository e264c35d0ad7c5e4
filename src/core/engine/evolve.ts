import type { FormData, Signed } from "../form";
import { callOver } from "./callOver";
import {
  isOpen,
  NEW_REQUEST,
  type Candidate,
  type RequestState,
  type Run,
  type ScopeValues,
  type Task,
  type Token,
  type Visit,
} from "./state";
import { changedPaths } from "./changedPaths";
import type { RequestEvent } from "./events";

const without = <T>(record: Readonly<Record<string, T>>, key: string): Record<string, T> => {
  const { [key]: _gone, ...rest } = record;
  return rest;
};
const idNumber = (id: string): number => Number(/\d+$/.exec(id)?.[0] ?? 0);

/** The next state. Total: an event about something unknown changes only the sequence number. */
export const evolve = (state: RequestState, e: RequestEvent): RequestState => step(state, e, null);

/** A signature that was replaced, or taken away, is none any more. */
function signaturesLeft({ signed }: RequestState, changed: FormData): Pick<RequestState, "signed"> {
  if (!signed) return {};
  const left = Object.entries(signed).filter(([id, { value }]) => !(id in changed) || changed[id] === value);
  return { signed: left.length > 0 ? Object.fromEntries(left) : undefined };
}

/** What somebody went on past is another matter once something it hung on has changed. */
function passedLeft({ passed, data }: RequestState, changed: FormData): Pick<RequestState, "passed"> {
  if (!passed) return {};
  const moved = new Set(changedPaths(data, changed).flatMap((path) => path.split("/")));
  const left = Object.entries(passed).filter(([, { fields }]) => !fields.some((id) => moved.has(id)));
  return { passed: left.length > 0 ? Object.fromEntries(left) : undefined };
}

/** The state after several events, one after another: the same, without a copy of every map for each of them. */
export function replay(events: readonly RequestEvent[], from: RequestState): RequestState {
  const own = new WeakSet<object>();
  return events.reduce((s, e) => step(s, e, own), from);
}

/** @param own maps that nobody else has seen: these are changed as they are */
function step(state: RequestState, e: RequestEvent, own: WeakSet<object> | null): RequestState {
  const s: RequestState = { ...state, seq: e.seq };
  const put = <T>(map: Readonly<Record<string, T>>, id: string, value: T): Record<string, T> => {
    if (own?.has(map)) {
      (map as Record<string, T>)[id] = value;
      return map;
    }
    const copy = { ...map, [id]: value };
    own?.add(copy);
    return copy;
  };
  const task = (id: string, change: (t: Task) => Task): RequestState => {
    const t = s.tasks[id];
    return t ? { ...s, tasks: put(s.tasks, id, change(t)) } : s;
  };
  const token = (id: string | null, change: (t: Token) => Token): RequestState["tokens"] => {
    const t = id === null ? undefined : s.tokens[id];
    return t ? put(s.tokens, t.id, change(t)) : s.tokens;
  };
  const run = (id: string, change: (r: Run) => Run): RequestState["runs"] => {
    const r = s.runs[id];
    return r ? { ...s.runs, [id]: change(r) } : s.runs;
  };
  /** Values of the round it happened in, or of the request. */
  const values = (change: (v: ScopeValues) => Partial<ScopeValues>): RequestState => {
    if (e.scope === undefined) return { ...s, ...change(s) };
    const scope = s.scopes[e.scope];
    return scope ? { ...s, scopes: { ...s.scopes, [scope.id]: { ...scope, ...change(scope) } } } : s;
  };
  const grown = (...ids: string[]) => Math.max(s.lastId, ...ids.map(idNumber));
  switch (e.type) {
    case "request started":
      return {
        ...s,
        status: "under way",
        requester: e.requester,
        number: e.number,
        startedAt: e.began ?? e.at,
        data: e.data,
      };
    case "data changed":
    case "values set":
      return {
        ...s,
        data: { ...s.data, ...e.data },
        ...signaturesLeft(s, e.data),
        ...passedLeft(s, e.data),
        changedAt: {
          ...s.changedAt,
          ...Object.fromEntries(changedPaths(s.data, e.data).map((path) => [path, e.seq])),
        },
      };
    case "signed": {
      const { field, value, fields, hash, document } = e;
      const of = document === undefined ? {} : { document };
      const signed: Signed = { by: e.by ?? "", at: e.at, seq: e.seq, value, fields, hash, ...of };
      return { ...s, signed: { ...s.signed, [field]: signed } };
    }
    case "check passed": {
      const { say, note: why, fields } = e;
      return { ...s, passed: { ...s.passed, [e.key]: { by: e.by ?? "", at: e.at, say, why, fields } } };
    }
    case "records kept":
      return values((v) => ({ kept: { ...v.kept, [e.step]: e.records } }));
    case "token placed": {
      const scope = e.parent === null ? undefined : s.tokens[e.parent]?.scope;
      const { token: id, step, parent, branch, moves = 0 } = e;
      const fresh: Token = {
        id,
        step,
        parent,
        branch,
        ...(scope === undefined ? {} : { scope }),
        ...(moves > 0 ? { moves } : {}),
      };
      const waiting = (t: Token) => ({
        ...t,
        waitsFor: (t.waitsFor ?? 0) + 1,
        opened: (t.opened ?? 0) + 1,
      });
      const tokens = { ...token(parent, waiting), [id]: fresh };
      return { ...s, lastId: grown(id), tokens };
    }
    case "token moved":
      return {
        ...s,
        tokens: token(e.token, ({ opened: _, ...t }) => ({
          ...t,
          step: e.step,
          ...(e.moves ? { moves: e.moves } : {}),
        })),
      };
    case "branch ended":
      return { ...s, tokens: withoutToken(s, e.token) };
    case "errand placed": {
      const { token: id, step, parent, atEnd: errand } = e;
      const scope = s.tokens[parent]?.scope;
      const fresh: Token = {
        id,
        step,
        parent,
        branch: null,
        ...(scope === undefined ? {} : { scope }),
        beside: true,
        errand,
      };
      return { ...s, lastId: grown(id), tokens: put(s.tokens, id, fresh) };
    }
    case "list sent out": {
      const { token: id, step, list: branch, round: parent } = e;
      const scope = parent === null ? {} : { scope: parent };
      const fresh: Token = { id, step, parent, branch, ...scope, beside: true, late: true };
      return { ...s, lastId: grown(id), tokens: put(s.tokens, id, fresh) };
    }
    case "errand kept":
      return movedTo(s, withBelow(s, e.token), e.parent);
    case "branch let go": {
      const of = s.tokens[e.token];
      if (!of || of.beside) return s;
      const tokens = { ...s.tokens, [of.id]: { ...of, beside: true as const } };
      return { ...s, tokens: waitingForOneFewer(tokens, of.parent) };
    }
    case "run opened": {
      const counts = { next: 0, open: 0, ended: 0, calledOff: 0, collected: [] };
      return {
        ...s,
        lastId: grown(e.run.id),
        runs: { ...s.runs, [e.run.id]: { ...e.run, ...counts } },
      };
    }
    case "round opened": {
      const r = s.runs[e.run];
      if (!r) return { ...s, lastId: grown(e.token) };
      const { token: id, step, index, of, one, name } = e;
      const fresh: Token = { id, step, parent: r.token, branch: r.list, scope: id };
      const scope = { id, parent: r.scope, run: r.id, index, of, one, name, outcomes: {}, kept: {} };
      return {
        ...s,
        lastId: grown(id),
        tokens: { ...token(r.token, (t) => ({ ...t, waitsFor: (t.waitsFor ?? 0) + 1 })), [id]: fresh },
        scopes: { ...s.scopes, [id]: scope },
        runs: run(e.run, (x) => ({ ...x, next: index + 1, open: x.open + 1 })),
      };
    }
    case "round ended":
      return {
        ...s,
        tokens: withoutToken(s, e.token),
        scopes: without(s.scopes, e.token),
        runs: run(e.run, (r) => ({
          ...r,
          open: r.open - 1,
          ended: r.ended + 1,
          collected:
            e.left === undefined
              ? r.collected
              : [...r.collected, [s.scopes[e.token]?.index ?? 0, e.left] as const],
        })),
      };
    case "round left out":
      return { ...s, runs: run(e.run, (r) => ({ ...r, next: e.index + 1, calledOff: r.calledOff + 1 })) };
    case "run closing":
      return { ...s, runs: run(e.run, (r) => ({ ...r, closing: true })) };
    case "run parked":
      return { ...s, runs: run(e.run, (r) => ({ ...r, parked: true })) };
    case "run went on":
      return { ...s, runs: run(e.run, ({ parked: _, ...r }) => r) };
    case "run ended":
      return { ...s, runs: without(s.runs, e.run) };
    case "token called off": {
      const id = e.token;
      const scope = s.scopes[id];
      const not = <T extends { token: string }>(all: Readonly<Record<string, T>>) =>
        Object.values(all).some((x) => x.token === id)
          ? Object.fromEntries(Object.entries(all).filter(([, x]) => x.token !== id))
          : all;
      const runs = scope
        ? run(scope.run, (r) => ({ ...r, open: r.open - 1, calledOff: r.calledOff + 1 }))
        : s.runs;
      const stuck = s.stuck.filter((x) => x.token !== id);
      const slept = Object.values(s.sleeps).filter((z) => z.token === id && z.watches).length;
      return {
        ...s,
        ...awaiting(s, -slept),
        tokens: withoutToken(s, id),
        scopes: scope ? without(s.scopes, id) : s.scopes,
        runs: not(runs),
        visits: not(s.visits),
        pending: not(s.pending),
        sleeps: not(s.sleeps),
        stuck,
        status: statusOf(s, stuck),
      };
    }
    case "call opened":
      return {
        ...s,
        lastId: grown(e.call.id),
        calls: put(s.calls, e.call.id, { ...e.call, state: NEW_REQUEST }),
      };
    case "in call": {
      const call = s.calls[e.call];
      if (!call) return s;
      const now = { ...call, state: step(call.state, e.event, own) };
      const { outsiders } = now.state;
      // What stayed of one that is over may be done by this.
      const calls = call.over ? overIn({ ...s.calls, [call.id]: now }, call.id) : put(s.calls, call.id, now);
      // Whoever it asks outside is known to the request as well: of a procedure that is over little is kept.
      const known = outsiders === call.state.outsiders ? {} : { outsiders: { ...s.outsiders, ...outsiders } };
      return withStuck({ ...s, calls, ...known }, call.id);
    }
    case "call ended": {
      const tokens = token(e.token, ({ moves: _, ...t }) => ({
        ...t,
        ...(e.moves ? { moves: e.moves } : {}),
      }));
      return withStuck({ ...s, tokens, calls: overIn(s.calls, e.call) }, e.call);
    }
    case "call called off": {
      const call = s.calls[e.call];
      if (!call) return s;
      const state = { ...ended(call.state, "cancelled", e.at), ...staying(call.state) };
      const calls = overIn({ ...s.calls, [call.id]: { ...call, state } }, call.id);
      return withStuck({ ...s, calls }, call.id);
    }
    case "fell asleep":
      return {
        ...s,
        lastId: grown(e.sleep.id),
        ...awaiting(s, e.sleep.watches ? 1 : 0),
        sleeps: { ...s.sleeps, [e.sleep.id]: e.sleep },
        tokens: s.tokens[e.sleep.token]?.moves ? token(e.sleep.token, ({ moves: _, ...t }) => t) : s.tokens,
      };
    case "woke": {
      const fewer = s.sleeps[e.sleep]?.watches ? -1 : 0;
      return { ...s, ...awaiting(s, fewer), sleeps: without(s.sleeps, e.sleep) };
    }
    case "looked": {
      const z = s.sleeps[e.sleep];
      return z ? { ...s, sleeps: { ...s.sleeps, [z.id]: { ...z, watches: e.watches } } } : s;
    }
    case "visit opened":
      return {
        ...s,
        lastId: grown(e.visit.id),
        visits: put(s.visits, e.visit.id, e.visit),
        // Somebody is waited for: whatever went before was no circle.
        tokens: s.tokens[e.visit.token]?.moves ? token(e.visit.token, ({ moves: _, ...t }) => t) : s.tokens,
      };
    case "next asked": {
      const v = s.visits[e.visit];
      if (!v) return s;
      // Whoever is next has a limit of their own: it does not stand still for what another was asking.
      const { rest: _, clock: __, stopped: ___, ...visit } = v;
      const left = e.rest.length > 0 ? { rest: e.rest } : {};
      const clock = e.clock ? { clock: e.clock } : {};
      return {
        ...s,
        visits: { ...s.visits, [v.id]: { ...visit, ...left, ...clock, asked: e.asked, due: e.due } },
      };
    }
    case "question asked": {
      const { question } = e.task;
      const asks = question ? { question: { ...question, text: e.note } } : {};
      return {
        ...s,
        lastId: grown(e.visit.id, e.task.id),
        visits: put(s.visits, e.visit.id, e.visit),
        tasks: put(s.tasks, e.task.id, { ...e.task, ...asks }),
      };
    }
    case "question ended":
      return { ...s, visits: without(s.visits, e.visit) };
    case "limit stopped": {
      const v = s.visits[e.visit];
      if (!v || v.due === null) return s;
      const { due } = v;
      return withLimit(s, { ...v, due: null, stopped: { since: e.at, due, left: e.left } });
    }
    case "limit goes on":
      return withLimit(s, unstopped(s.visits[e.visit], e.due));
    case "outsider named": {
      const { account, name, email, hides } = e;
      const who = { name, email, ...(hides ? { hides } : {}) };
      return { ...s, outsiders: { ...s.outsiders, [account]: who } };
    }
    case "task opened":
      return { ...s, lastId: grown(e.task.id), tasks: put(s.tasks, e.task.id, e.task) };
    case "decider added": {
      const v = s.visits[e.task.visit];
      return {
        ...s,
        lastId: grown(e.task.id),
        tasks: put(s.tasks, e.task.id, e.task),
        visits: v ? { ...s.visits, [v.id]: { ...v, asked: v.asked + 1 } } : s.visits,
      };
    }
    case "task taken":
      return task(e.task, (t) => ({ ...t, holder: e.by, status: "taken" }));
    case "task put back":
      return task(e.task, (t) => ({ ...t, holder: null, status: "open" }));
    case "task handed over":
      return task(e.task, ({ back: _, ...t }) => ({ ...t, ...withPeople(e.to), ...backOf(e) }));
    case "answer proposed":
      return task(e.task, ({ back: _, ...t }) => ({
        ...t,
        ...withPeople(e.to),
        ...backOf(e),
        proposed: { answer: e.answer, label: e.label, note: e.note, by: e.by ?? "", at: e.at },
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
    case "step decided": {
      const outcome = { answer: e.label, note: e.note, by: e.by, at: e.at };
      const after = values((v) => ({ outcomes: { ...v.outcomes, [e.step]: outcome } }));
      return { ...after, visits: without(s.visits, e.visit) };
    }
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
    case "not delivered":
    case "files removed":
    case "reminded":
    case "values blanked":
      return s;
    case "way chosen": {
      const chosen =
        e.by === null || e.way === null ? [] : [{ step: e.step, scope: e.scope ?? null, by: e.by }];
      const chose = chosen.length > 0 ? { chose: [...(s.chose ?? []), ...chosen] } : {};
      // It waits no more for what it asked for.
      const waited = Object.values(s.pending).filter((p) => p.token === e.token);
      if (waited.length === 0) return { ...s, ...chose };
      const ids = new Set(waited.map((p) => p.id));
      return {
        ...s,
        ...chose,
        pending: Object.fromEntries(Object.entries(s.pending).filter(([id]) => !ids.has(id))),
      };
    }
    case "limit changed":
      return withLimit(s, unstopped(s.visits[e.visit], e.due));
    case "timer set":
      return { ...s, timers: put(s.timers, e.timer.id, e.timer) };
    case "span opened":
      return { ...s, lastId: grown(e.span.id), spans: { ...s.spans, [e.span.id]: e.span } };
    case "span closed":
      return { ...s, spans: without(s.spans ?? {}, e.span) };
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
      return { ...s, stuck, status: statusOf(s, stuck) };
    }
    case "request finished":
      return {
        ...ended(s, "finished", e.at),
        ...staying(s),
        result: { name: e.result, tone: e.tone },
      };
    case "request withdrawn":
      return ended(s, "withdrawn", e.at);
    case "request cancelled":
      return ended(s, "cancelled", e.at);
  }
  // What is stored is brought up to date when it is read; an event nobody knows must not be passed over.
  throw new Error(`there is no event "${(e satisfies never as RequestEvent).type}"`);
}

/** A request whose procedure may have become stuck, or be so no more: then its token is. */
function withStuck(s: RequestState, id: string): RequestState {
  const call = s.calls[id];
  const was = s.stuck.find((x) => x.call === id);
  const why = call && !call.over && call.state.status === "stuck" ? call.state.stuck[0] : undefined;
  if (was?.reason === why?.reason) return s;
  const others = s.stuck.filter((x) => x !== was);
  const stuck =
    why && call ? [...others, { token: call.token, step: call.step, reason: why.reason, call: id }] : others;
  return { ...s, stuck, status: statusOf(s, stuck) };
}
const statusOf = (s: RequestState, stuck: RequestState["stuck"]): RequestState["status"] => {
  if (s.status !== "stuck" && s.status !== "under way") return s.status;
  return stuck.length > 0 ? "stuck" : "under way";
};

/** How many sleeps wait for something to come, with some more or fewer. */
function awaiting(s: RequestState, more: number): { awaits?: number } {
  if (more === 0) return {};
  const awaits = (s.awaits ?? 0) + more;
  return { awaits: awaits > 0 ? awaits : undefined } as { awaits?: number };
}

/** Calls with one that is over: what is known of its tasks stays. */
function overIn(calls: RequestState["calls"], id: string): RequestState["calls"] {
  const call = calls[id];
  const left = call && callOver(call);
  return left ? { ...calls, [id]: left } : without(calls, id);
}

/** A token and those that go on for it, rounds and what stands in them left out: they have values of their own. */
function withBelow(s: RequestState, token: string): ReadonlySet<string> {
  const ids = new Set([token]);
  const scope = s.tokens[token]?.scope;
  for (let more = true; more;) {
    more = false;
    for (const t of Object.values(s.tokens))
      if (!ids.has(t.id) && t.parent !== null && ids.has(t.parent) && t.scope === scope) {
        ids.add(t.id);
        more = true;
      }
  }
  return ids;
}

/** Tokens beside another parent, or none, with all that is asked there: they read what can be read there. */
function movedTo(s: RequestState, ids: ReadonlySet<string>, parent: string | null) {
  const scope = parent === null ? undefined : s.tokens[parent]?.scope;
  const moved = <T extends { scope?: string }>(map: Readonly<Record<string, T>>, is: (x: T) => boolean) =>
    Object.fromEntries(
      Object.entries(map).map(([id, x]) => {
        if (!is(x)) return [id, x];
        const { scope: _, ...rest } = x;
        return [id, { ...rest, ...(scope === undefined ? {} : { scope }) } as T];
      }),
    );
  const tokens = moved(s.tokens, (t) => ids.has(t.id));
  for (const id of ids)
    if (tokens[id] && !ids.has(tokens[id].parent ?? "")) tokens[id] = { ...tokens[id], parent };
  return {
    ...s,
    tokens,
    visits: moved(s.visits, (v) => ids.has(v.token)),
    tasks: moved(s.tasks, (t) => ids.has(t.token) && isOpen(t)),
  };
}

/** What stays of a request that has ended: tasks that are done beside it, with their limits. */
function staying(s: RequestState) {
  const ids = new Set(
    Object.values(s.visits).flatMap((v) => (s.tokens[v.token]?.errand === "stays" ? [v.token] : [])),
  );
  if (ids.size === 0) return {};
  const { tokens, visits, tasks } = movedTo(s, ids, null);
  const only = <T>(map: Readonly<Record<string, T>>, is: (x: T) => boolean) =>
    Object.fromEntries(Object.entries(map).filter(([, x]) => is(x)));
  const left = only(visits, (v) => ids.has(v.token));
  return {
    tokens: only(tokens, (t) => ids.has(t.id)),
    visits: left,
    tasks,
    timers: only(s.timers, (t) => t.visit in left),
  };
}

const withPeople = (to: Candidate[]): Pick<Task, "candidates" | "holder" | "status"> => ({
  candidates: to,
  holder: to.length === 1 ? to[0]!.person : null,
  status: "open",
});
const backOf = ({ back = [] }: { back?: readonly string[] }): Pick<Task, "back"> =>
  back.length > 0 ? { back } : {};

/** A visit whose limit goes on, or is another. */
function unstopped(v: Visit | undefined, due: number | null): Visit | undefined {
  if (!v) return v;
  const { stopped: _, ...visit } = v;
  return { ...visit, due };
}

/** With another limit of a visit, which is that of its open tasks. */
function withLimit(s: RequestState, v: Visit | undefined): RequestState {
  if (!v) return s;
  const tasks = Object.entries(s.tasks).map(([id, t]) => [
    id,
    t.visit === v.id && isOpen(t) ? { ...t, due: v.due } : t,
  ]);
  return { ...s, visits: { ...s.visits, [v.id]: v }, tasks: Object.fromEntries(tasks) };
}

/** Tokens without one that has ended, and what waited for it waiting for one fewer. */
function withoutToken(s: RequestState, id: string): RequestState["tokens"] {
  const rest = without(s.tokens, id);
  const gone = s.tokens[id];
  return gone && !gone.beside ? waitingForOneFewer(rest, gone.parent) : rest;
}

function waitingForOneFewer(tokens: RequestState["tokens"], id: string | null): RequestState["tokens"] {
  const p = id === null ? undefined : tokens[id];
  if (!p) return tokens;
  const { waitsFor = 1, ...others } = p;
  return { ...tokens, [p.id]: waitsFor > 1 ? { ...others, waitsFor: waitsFor - 1 } : others };
}

const ended = (s: RequestState, status: RequestState["status"], at: number): RequestState => ({
  ...s,
  status,
  endedAt: at,
  tokens: {},
  visits: {},
  timers: {},
  pending: {},
  scopes: {},
  runs: {},
  sleeps: {},
  awaits: undefined,
  stuck: [],
});
