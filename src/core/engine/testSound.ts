import {
  allTasks,
  isEnded,
  isOfStep,
  isOpen,
  isQuestion,
  NEW_REQUEST,
  replay,
  type CompiledRelease,
  type News,
  type RequestEvent,
  type RequestState,
} from ".";
import { colleagueOf } from "../form";
import { IDS } from "./testOffice";

/** Everything that must hold after every command, whatever the route. */
export function mustHold(state: RequestState, events: RequestEvent[]) {
  expect(replay(events, NEW_REQUEST)).toEqual(state);
  expect(events.map((e) => e.seq)).toEqual(events.map((_, i) => i + 1));
  const tasks = Object.values(state.tasks);
  callsHold(state, events);
  if (isEnded(state)) {
    // Nothing stays but what an owner let stay, in no round any more.
    const stays = Object.values(state.tokens);
    expect(stays.filter((t) => t.errand !== "stays" || t.scope !== undefined || t.parent !== null)).toEqual(
      [],
    );
    expect(tasks.filter((t) => isOpen(t) && !state.tokens[t.token])).toEqual([]);
    const own = Object.values(state.visits).filter((v) => !isQuestion(v));
    for (const t of stays) expect(own.filter((v) => v.token === t.id)).toHaveLength(1);
    expect([state.scopes, state.runs, state.sleeps, state.pending]).toEqual([{}, {}, {}, {}]);
    if (state.status !== "finished") expect(stays).toEqual([]);
  }
  roundsHold(state, events);
  const answered = events.filter((e) => e.type === "answer given").map((e) => (e as { task: string }).task);
  expect(new Set(answered).size).toBe(answered.length);
  const decided = events.filter((e) => e.type === "step decided").map((e) => (e as { visit: string }).visit);
  // What an owner decides of something stuck belongs to no visit.
  const visits = decided.filter((v) => v !== "");
  expect(new Set(visits).size).toBe(visits.length);
  expect(
    events.filter(
      (e) =>
        e.type === "request finished" || e.type === "request withdrawn" || e.type === "request cancelled",
    ).length,
  ).toBeLessThanOrEqual(1);
  for (const t of tasks.filter(isOpen)) {
    expect(state.visits[t.visit]).toBeDefined();
    if (isOfStep(t) || t.purpose === "advice")
      expect(t.candidates.map((c) => c.person)).not.toContain(colleagueOf(state.requester));
    // What is asked beside a task is asked no longer than somebody has that.
    const of = t.question && state.tasks[t.question.of];
    expect([isQuestion(t), of ? isOpen(of) : undefined]).toEqual([
      t.question !== undefined,
      t.question && true,
    ]);
  }
  limitsHold(state);
  for (const timer of Object.values(state.timers))
    expect(
      state.visits[timer.visit] ?? state.sleeps[timer.visit] ?? state.spans?.[timer.visit],
    ).toBeDefined();
  for (const z of Object.values(state.sleeps)) {
    expect(state.tokens[z.token]).toMatchObject({ step: z.step });
    expect(Object.values(state.timers).filter((t) => t.visit === z.id)).toHaveLength(
      z.until === null ? 0 : 1,
    );
    // Nothing waits for what is so already.
    if (z.watches) expect(state.data["note"]).not.toBe("x");
  }
  expect(state.awaits ?? 0).toBe(Object.values(state.sleeps).filter((z) => z.watches).length);
  for (const token of Object.values(state.tokens)) {
    if (token.parent) expect(state.tokens[token.parent]).toBeDefined();
    const waited = Object.values(state.tokens).filter((t) => t.parent === token.id && !t.beside);
    expect(token.waitsFor ?? 0).toBe(waited.length);
  }
}

/** A limit stands still exactly while somebody is asked for whom it does, and nothing of its ladder happens meanwhile. */
function limitsHold({ visits, tasks, timers }: RequestState) {
  const open = Object.values(tasks).filter(isOpen);
  for (const v of Object.values(visits)) {
    if (!v.stopped) continue;
    expect([v.due, v.purpose === "decide" || v.purpose === "complete"]).toEqual([null, true]);
    expect(open.filter((t) => t.question?.visit === v.id).length).toBeGreaterThan(0);
    expect(Object.values(timers).filter((t) => t.visit === v.id)).toEqual([]);
    expect(open.filter((t) => t.visit === v.id && t.due !== null)).toEqual([]);
  }
}

/** What must hold of a request holds of each procedure in it; its token waits for it, and is stuck where it is. */
function callsHold(state: RequestState, events: readonly RequestEvent[]) {
  const inside = new Map<string, RequestEvent[]>();
  for (const e of events)
    if (e.type === "in call") inside.set(e.call, [...(inside.get(e.call) ?? []), e.event]);
  for (const call of Object.values(state.calls)) {
    if (call.over) {
      expect(isEnded(call.state)).toBe(true);
      expect(Object.values(call.state.tasks).filter((t) => isOpen(t) && !call.state.tokens[t.token])).toEqual(
        [],
      );
      continue;
    }
    expect(state.tokens[call.token]).toMatchObject({ step: call.step });
    mustHold(call.state, inside.get(call.id) ?? []);
    const stuck = state.stuck.filter((s) => s.call === call.id);
    expect(stuck.map((s) => s.token)).toEqual(call.state.status === "stuck" ? [call.token] : []);
  }
  for (const s of state.stuck) if (s.call) expect(state.calls[s.call]?.over).toBeUndefined();
  if (!isEnded(state)) expect(state.status === "stuck").toBe(state.stuck.length > 0);
  // Nothing of one that is known no more is open: whoever had it would wait for ever.
  for (const [id, of] of inside) {
    if (state.calls[id]) continue;
    expect(of.filter((e) => e.type === "task opened")).toEqual([]);
  }
}

interface Went {
  state: RequestState;
  events: readonly RequestEvent[];
  release: CompiledRelease;
}
/** Nobody waits for branches once enough of them have ended, nor goes on before. */
export function joinsHold(run: Went, fresh: readonly RequestEvent[]) {
  const { state, events, release } = run;
  const stuck = new Set(state.stuck.map((s) => s.token));
  for (const token of Object.values(state.tokens)) {
    const step = release.places.get(token.step)?.step;
    if (step?.kind !== "together" || !token.opened || stuck.has(token.id)) continue;
    const ended = token.opened - (token.waitsFor ?? 0);
    expect(token.waitsFor).toBeGreaterThan(0);
    expect(ended).toBeLessThan(step.needs ?? Infinity);
  }
  for (const e of fresh) {
    if (e.type !== "token called off" && e.type !== "branch let go") continue;
    const placed = events.find((x) => x.type === "token placed" && x.token === e.token);
    if (placed?.type !== "token placed" || placed.parent === null) continue;
    // Somebody else was in before, or all around it was called off.
    const beside = events.filter((x) => x.type === "token placed" && x.parent === placed.parent);
    const ids = new Set(beside.map((x) => (x as { token: string }).token));
    const before = events.filter((x) => x.seq < e.seq && x.type === "branch ended" && ids.has(x.token));
    const around = events.some(
      (x) =>
        (x.type === "token called off" || x.type === "branch ended" || x.type === "round ended") &&
        x.token === placed.parent,
    );
    expect(before.length > 0 || around).toBe(true);
  }
}

/** Rounds are counted rightly, and what each leaves behind is what came to pass in it and in no other. */
function roundsHold(state: RequestState, events: readonly RequestEvent[]) {
  for (const scope of Object.values(state.scopes)) {
    expect(state.tokens[scope.id]).toMatchObject({ scope: scope.id });
    expect(state.runs[scope.run]).toBeDefined();
    if (scope.parent !== null) expect(state.scopes[scope.parent]).toBeDefined();
  }
  for (const run of Object.values(state.runs)) {
    const open = Object.values(state.scopes).filter((s) => s.run === run.id);
    expect(state.tokens[run.token]).toMatchObject({ step: run.step, waitsFor: open.length });
    expect(run.open).toBe(open.length);
    expect(run.next).toBe(run.open + run.ended + run.calledOff);
    // A run that waits for nobody and nothing is parked, or it would stand for ever.
    if (!run.parked) expect(open.length).toBeGreaterThan(0);
    if (run.atOnce !== null && run.stuckHolds) expect(open.length).toBeLessThanOrEqual(run.atOnce);
  }
  for (const t of Object.values(state.tasks).filter(isOpen))
    expect([t.scope, state.visits[t.visit]!.scope]).toEqual([
      state.tokens[t.token]!.scope,
      state.tokens[t.token]!.scope,
    ]);
  const index = new Map<string, number>();
  const decided = new Map<string, string>();
  for (const e of events) {
    if (e.type === "round opened") index.set(e.token, e.index);
    if (e.type === "step decided" && e.scope) decided.set(`${e.scope} ${e.step}`, e.label);
    if (e.type !== "round ended" || !e.left) continue;
    expect(e.scope).toBe(e.token);
    const left = e.left as { entries: [string, unknown][] };
    const said = left.entries[1]![1];
    expect(left.entries[0]).toEqual(["n", { num: String(index.get(e.token)! + 1) }]);
    if (said !== null)
      expect([...decided].filter(([k]) => k.startsWith(`${e.token} `)).map(([, v]) => v)).toContain(said);
  }
}

const ASKING: readonly string[] = [
  "task came",
  "covering",
  "handed over",
  "sent back",
  "asked something",
  "came back",
];
const OVER: readonly string[] = ["called off", "handed away"];

/**
 * Held against everybody's desk before and after: what came to a desk is told once, what left it without its person or a
 * colleague having answered is told once, and nothing else; whoever gave the command is told of nothing.
 */
export function toldRightly(
  news: readonly News[],
  before: RequestState,
  after: RequestState,
  events: readonly RequestEvent[],
) {
  const actor = events.find((e) => e.by !== null)?.by ?? null;
  const onDesk = (s: RequestState, person: string): string[] =>
    allTasks(s)
      .filter((t) => isOpen(t) && t.candidates.some((c) => c.person === person))
      .filter((t) => t.holder === null || t.holder === person)
      .map((t) => t.id);
  const byId = (s: RequestState) => new Map(allTasks(s).map((t) => [t.id, t]));
  const [tasksBefore, tasksAfter] = [byId(before), byId(after)];
  for (const person of [...IDS, "owner", "piet"]) {
    const told = (kinds: readonly string[]) =>
      news.flatMap((n) => (n.to === person && kinds.includes(n.kind) ? [n.task!] : [])).sort();
    const [had, has] = [onDesk(before, person), onDesk(after, person)];
    if (person === actor) {
      expect(news.filter((n) => n.to === person && n.kind !== "held up")).toEqual([]);
      continue;
    }
    const asked = (id: string) => {
      const t = tasksBefore.get(id);
      return t?.candidates.some((c) => c.person === person && isOpen(t)) ?? false;
    };
    // Taken and put back by a colleague is theirs to see on the desk, and no news.
    expect(told(ASKING)).toEqual(has.filter((id) => !asked(id)).sort());
    const over = had.filter((id) => {
      const t = tasksAfter.get(id)!;
      if (isOpen(t)) return !t.candidates.some((c) => c.person === person);
      return t.status === "closed" || t.by === undefined;
    });
    expect(told(OVER)).toEqual(over.sort());
  }
  const stuckNow = after.stuck.filter((s) => !before.stuck.some((x) => x.token === s.token));
  expect(news.filter((n) => n.kind === "stuck").length).toBeGreaterThanOrEqual(stuckNow.length);
  const known = new Set(["stuck", "not delivered"]);
  expect(news.filter((n) => n.to === null && !known.has(n.kind))).toEqual([]);
}
