import { stepKind, type CallToGo, type Next, type Woken } from "../kinds";
import { branchesAround, following, listsOf, START, type Step, type Tone } from "../route";
import { absorb, inside } from "./calls";
import type { Refusal } from "./commands";
import { lookFor } from "./lookFor";
import { readyCall, valuesBack } from "./readyCall";
import { callOff, endLostRounds, endRound, leaveBeside, isRoundOf, openNext, openRun } from "./rounds";
import { isEnded, NEW_REQUEST, type Call, type RequestState, type StuckReason, type Token } from "./state";
import { keepSpans } from "./spans";
import { stepTurn } from "./stepTurn";
import { MAX_MOVES, MOST_MOVED, type Due, type Turn } from "./turn";
import { clearly, type StuckHere } from "./unclear";
import { askPeople, closeAll, closeCall } from "./visit";

/** Puts a token on a step and lets it do what it does; goes on until everything waits or has ended. */
export function enter(turn: Turn, token: string, step: Step, effect?: string): void {
  turn.agenda.push({ token, step, ...(effect === undefined ? {} : { effect }) });
  goThrough(turn);
}

/**
 * Goes through what is to be entered, the last put on it first: that is the order in which calls within calls would go,
 * without their depth, so that a circle of branches is found and does not exhaust the stack.
 */
export function goThrough(turn: Turn): void {
  // Somebody further up does it.
  if (turn.walking) return;
  turn.walking = true;
  for (let next = turn.agenda.pop(); next; next = turn.agenda.pop()) {
    // Of a request that has ended only what is done beside it goes on.
    if (isEnded(turn.state) && !("token" in next && turn.state.tokens[next.token])) continue;
    goOnWith(turn, next);
  }
  turn.walking = false;
}

function goOnWith(turn: Turn, next: Due): void {
  if ("run" in next) return openNext(turn, next.run);
  if ("left" in next) {
    if (!turn.state.tokens[next.of.token]) return;
    const step = turn.release.places.get(next.of.step)?.step;
    const rounds = step && stepKind(turn.release.kinds, step).rounds;
    if (!step || !rounds) return proceed(turn, next.of.token, next.of.step);
    const at = turn.at(next.of.token, step.id);
    return goOn(
      turn,
      next.of.token,
      step,
      clearly(() => rounds.done(stepTurn(turn, at), step, next.left)),
    );
  }
  // What was called off meanwhile does not go on.
  if (!turn.state.tokens[next.token]) return;
  if (next.step) return walk(turn, next.token, next.step, next.effect);
  endBranch(turn, next.token, next.of);
}

function walk(turn: Turn, token: string, step: Step, effect?: string): void {
  let next: Step | null = step;
  let retried = effect;
  for (let passed = 1; next && turn.state.tokens[token]; passed++) {
    // A round stands at the step that opened it only when it could not be ended.
    if (isRoundOf(turn.state, token, next.id) || isBranchOf(turn.state, token, next.id))
      return endBranch(turn, token, next.id);
    // It has been gone through already, and only what it hands back could not be read.
    const call = callOf(turn.state, token, next.id);
    if (call) return void workIn(turn, call.id, () => null, null, true);
    const { moves = 0, step: stands } = turn.state.tokens[token]!;
    if (passed > MAX_MOVES || moves >= MAX_MOVES || turn.moved > MOST_MOVED)
      return stuck(turn, token, next.id, { code: "runaway", data: { step: next.name, limit: MAX_MOVES } });
    turn.moved++;
    if (stands !== next.id) turn.raise({ type: "token moved", token, step: next.id, moves: moves + 1 });
    const at: Step = next;
    const here = turn.at(token, at.id);
    const { data } = turn.state;
    const answer = clearly(() =>
      stepKind(turn.release.kinds, at).enter(stepTurn(turn, here), at, retried !== undefined),
    );
    // Not before it has done all it does: it may take away the row of the very round it stands in.
    if (turn.state.data !== data) endLostRounds(turn, data);
    if (!turn.state.tokens[token]) return;
    next = follow(turn, token, at, answer, retried);
    retried = undefined;
  }
}

/** Goes on behind a step. */
export function proceed(turn: Turn, token: string, stepId: string): void {
  const next = behind(turn, token, stepId);
  if (next) enter(turn, token, next);
}

/** Goes on as a kind said once its people have answered or what it waited for was done. */
export function goOn(turn: Turn, token: string, step: Step, answer: Next | StuckHere): void {
  const next = follow(turn, token, step, answer);
  if (next) enter(turn, token, next);
}

function behind(turn: Turn, token: string, stepId: string): Step | null {
  if (turn.state.tokens[token]?.errand) {
    endBranch(turn, token, stepId);
    return null;
  }
  if (isRoundOf(turn.state, token, stepId) || isBranchOf(turn.state, token, stepId)) {
    // An owner lets it go on.
    endBranch(turn, token, stepId, true);
    return null;
  }
  const call = callOf(turn.state, token, stepId);
  // An owner lets it go on, whatever the procedure has come to or is about.
  if (call && isEnded(call.state)) turn.raise(ending(call), null);
  else if (call) closeCall(turn, call.id, true);
  const next = following(turn.release.places, stepId);
  if (next === "branch end") {
    endBranch(turn, token, stepId);
    return null;
  }
  if (next === null) end(turn, token, stepId, "Done", "plain");
  return next;
}

/**
 * Moves the token as a kind of step said.
 * @param effect the id under which a retried step asks again for what could not be done
 * @returns the step to go on with, or null when the token waits, has gone or is stuck
 */
function follow(turn: Turn, token: string, step: Step, next: Next | StuckHere, effect?: string): Step | null {
  switch (next.go) {
    case "on":
      return behind(turn, token, step.id);
    case "into": {
      const list = listsOf(step, turn.release.kinds).find((l) => l.id === next.list);
      return list?.steps[0] ?? behind(turn, token, step.id);
    }
    case "to": {
      const target = turn.release.places.get(next.step);
      const here = turn.release.places.get(step.id);
      if (!target || !here || branchesAround(target).join() !== branchesAround(here).join()) {
        stuck(turn, token, step.id, { code: "bad-jump", data: { step: step.name, to: next.step } });
        return null;
      }
      return target.step;
    }
    case "side by side":
      openBranches(turn, token, step, next.lists);
      return null;
    case "rounds":
      turn.agenda.push({ run: openRun(turn, token, step, next) });
      goThrough(turn);
      return null;
    case "asks": {
      const atEnd = stepKind(turn.release.kinds, step).asks?.beside?.(step);
      const waits = !atEnd || turn.state.tokens[token]!.errand !== undefined;
      const asked = waits ? token : sendErrand(turn, token, step.id, atEnd);
      const refused = clearly(() => askPeople(turn, asked, step));
      if (refused) stuck(turn, asked, step.id, "go" in refused ? refused.reason : refused);
      return waits ? null : behind(turn, token, step.id);
    }
    case "waits":
      turn.send(turn.at(token, step.id), next.work, token, effect);
      return null;
    case "sleeps":
      fallAsleep(turn, token, step, next);
      return null;
    case "calls":
      beginCall(turn, token, step, next);
      return null;
    case "stuck":
      stuck(turn, token, step.id, next.reason);
      return null;
    case "end":
      end(turn, token, step.id, next.result, next.tone);
      return null;
  }
}

/** Places what is done beside the route; a retry finds it there and asks anew. */
function sendErrand(turn: Turn, parent: string, step: string, atEnd: NonNullable<Token["errand"]>): string {
  const token = turn.newId("k");
  turn.raise({ type: "errand placed", token, step, parent, atEnd }, null, turn.at(parent, step).scope);
  return token;
}

function fallAsleep(turn: Turn, token: string, step: Step, next: Extract<Next, { go: "sleeps" }>) {
  const { until } = next;
  const at = turn.at(token, step.id);
  // What it was told by that it has not come yet is told by that again.
  const looked = next.awaits ? clearly(() => lookFor(turn, at, step)) : null;
  if (looked && "go" in looked) return stuck(turn, token, step.id, looked.reason);
  const id = turn.newId("z");
  const sleep = {
    id,
    token,
    step: step.id,
    ...(at.scope === null ? {} : { scope: at.scope }),
    since: turn.facts.at,
    until,
    ...(looked ? { watches: looked.watches } : {}),
  };
  turn.raise({ type: "fell asleep", sleep }, null);
  if (until === null) return;
  const timer = { id: `${id}.wake`, visit: id, rung: "", turn: 1, at: until };
  turn.raise({ type: "timer set", timer }, null);
}

/** Goes on with a token that slept. */
export function wake(turn: Turn, id: string, by: Woken = "time") {
  const { token, step: stepId } = turn.state.sleeps[id]!;
  endSleep(turn, id, by);
  const step = turn.release.places.get(stepId)?.step;
  const woken = step && stepKind(turn.release.kinds, step).woken;
  if (!step || !woken) return proceed(turn, token, stepId);
  const at = turn.at(token, stepId);
  goOn(
    turn,
    token,
    step,
    clearly(() => woken(stepTurn(turn, at), step, by)),
  );
}

/** Ends a sleep, with the moment it was to end at. */
export function endSleep(turn: Turn, id: string, by: Woken) {
  const { token, step } = turn.state.sleeps[id]!;
  for (const t of Object.values(turn.state.timers))
    if (t.visit === id) turn.raise({ type: "timer cleared", timer: t.id }, null);
  turn.raise({ type: "woke", sleep: id, token, step, ...(by === "came" ? { came: true } : {}) }, null);
}

export function stuck(turn: Turn, token: string, step: string, reason: StuckReason, effect?: string) {
  // What was done beside a request that has ended ends too, where nobody is left to do it.
  if (isEnded(turn.state)) return turn.raise({ type: "branch ended", token, step }, null);
  turn.raise({ type: "got stuck", token, step, reason, ...(effect ? { effect } : {}) }, null);
  makeRoom(turn, token);
}

/** Where rounds pass by one that is stuck, there is room for another now. */
function makeRoom(turn: Turn, token: string) {
  for (let t = turn.state.tokens[token]; t; t = t.parent === null ? undefined : turn.state.tokens[t.parent]) {
    const scope = turn.state.scopes[t.id];
    if (scope) turn.agenda.push({ run: scope.run });
  }
  goThrough(turn);
}

/** Puts the first token of a request, or of a procedure, on its first step. @param moves of whoever handed to it */
export function placeFirst(turn: Turn, moves = 0): void {
  const first = turn.release.definition.route[0];
  const token = turn.newId("k");
  const placed = { token, step: first?.id ?? START, parent: null, branch: null };
  turn.raise({ type: "token placed", ...placed, ...(moves > 0 ? { moves } : {}) }, null);
  if (first) enter(turn, token, first);
  else end(turn, token, START, "Done", "plain");
}

/** Enters a procedure, on the release that is live now or the one the step is fixed to. */
function beginCall(turn: Turn, token: string, step: Step, to: CallToGo) {
  const ready = clearly(() => readyCall(turn, token, step, to));
  if ("go" in ready) return stuck(turn, token, step.id, ready.reason);
  if ("code" in ready) return stuck(turn, token, step.id, ready);
  const { call, inner } = ready;
  turn.raise({ type: "call opened", call }, null);
  placeFirst(inner, turn.state.tokens[token]?.moves);
  keepSpans(inner);
  absorb(turn, call, inner);
  goOnFrom(turn, call.id, inner);
}

/**
 * Does something in a procedure, and goes on with the request where that ends it.
 * @param gone what is refused where there is no such procedure any more
 * @param ended whether it has ended already and is to be gone on from
 */
export function workIn(
  turn: Turn,
  id: string,
  deed: (inner: Turn) => Refusal | null,
  gone: Refusal | null,
  ended = false,
): Refusal | null {
  const over = turn.state.calls[id]?.over || (!ended && isEnded(turn.state.calls[id]?.state ?? NEW_REQUEST));
  const done = inside(turn, id, deed);
  if (!done) return gone;
  if (!over && done.did === null) goOnFrom(turn, id, done.inner);
  return done.did;
}

/** Goes on behind the step that handed to a procedure which has ended. */
function goOnFrom(turn: Turn, id: string, inner: Turn) {
  const call = turn.state.calls[id]!;
  if (!isEnded(inner.state)) {
    if (inner.state.status !== "stuck") return;
    makeRoom(turn, call.token);
    return;
  }
  const step = turn.release.places.get(call.step)?.step;
  const calls = step && stepKind(turn.release.kinds, step).calls;
  if (!turn.state.tokens[call.token]) return;
  if (!step || !calls) return proceed(turn, call.token, call.step);
  const values = valuesBack(inner, step, calls.knows(step).gives);
  if ("code" in values) return stuck(turn, call.token, call.step, values);
  turn.raise(ending(call, inner.endedAfter), null);
  const at = turn.at(call.token, step.id);
  const result = inner.state.result?.name ?? "";
  goOn(
    turn,
    call.token,
    step,
    clearly(() => calls.came(stepTurn(turn, at), step, result, values)),
  );
}

/** The procedure a token waits for, or has come back from without going on. */
const callOf = (s: RequestState, token: string, step: string): Call | undefined =>
  Object.values(s.calls).find((c) => c.token === token && c.step === step && !c.over);

function ending({ id: call, token, step, state }: Call, moves = 0) {
  return { type: "call ended" as const, call, token, step, result: state.result?.name ?? "", moves };
}

/** Steps since anybody was waited for, of a token and of those that wait for it. */
function movesOf(s: RequestState, token: string): number {
  const t = s.tokens[token];
  if (!t) return 0;
  return Math.max(t.moves ?? 0, t.parent === null ? 0 : movesOf(s, t.parent));
}

/** Ends a request; nothing may stay open behind it. */
function end(turn: Turn, token: string, step: string, result: string, tone: Tone) {
  turn.endedAfter = movesOf(turn.state, token);
  closeAll(turn, false);
  turn.raise({ type: "request finished", step, result, tone }, null);
}

function openBranches(turn: Turn, token: string, step: Step, open: readonly string[]) {
  const lists = listsOf(step, turn.release.kinds).filter((l) => open.includes(l.id));
  const placed = lists.map((l) => {
    const child = turn.newId("k");
    turn.raise(
      { type: "token placed", token: child, step: l.steps[0]?.id ?? step.id, parent: token, branch: l.id },
      null,
    );
    return [child, l] as const;
  });
  if (placed.length === 0) return proceed(turn, token, step.id);
  // All branches stand before any of them goes on, so that a quick one cannot find itself alone and join early.
  for (const [child, l] of placed.reverse())
    turn.agenda.push(
      l.steps[0] ? { token: child, step: l.steps[0] } : { token: child, step: null, of: step.id },
    );
  goThrough(turn);
}

/**
 * Whether a token goes through a branch of this step: it stands there only when it cannot be told whether enough have
 * ended.
 */
const isBranchOf = (s: RequestState, token: string, step: string): boolean => {
  const { parent = null, errand } = s.tokens[token] ?? {};
  return parent !== null && !errand && !s.scopes[token] && s.tokens[parent]?.step === step;
};

/** @param without an owner lets a round go without what it should leave behind, a branch without asking if it is enough */
function endBranch(turn: Turn, token: string, step: string, without = false) {
  if (turn.state.scopes[token]) {
    const why = endRound(turn, token, without);
    if (why) stuck(turn, token, turn.state.runs[turn.state.scopes[token].run]!.step, why);
    return goThrough(turn);
  }
  const { parent = null, beside = false } = turn.state.tokens[token] ?? {};
  const at = parent === null || beside ? undefined : turn.state.tokens[parent];
  const early = at && !without ? isEnough(turn, at) : false;
  if (typeof early === "object") return stuck(turn, token, at!.step, early.reason);
  leaveBeside(turn, token, parent);
  turn.raise({ type: "branch ended", token, step }, null);
  if (!at) return;
  const left = turn.state.tokens[at.id]?.waitsFor ?? 0;
  if (left > 0 && !early) return;
  if (left > 0) leaveOthers(turn, at);
  proceed(turn, at.id, at.step);
}

/** Whether what waits for branches may go on with this one, though not with the last. */
function isEnough(turn: Turn, { id, step: stepId, waitsFor = 1, opened = waitsFor }: Token) {
  const step = turn.release.places.get(stepId)?.step;
  const joins = step && stepKind(turn.release.kinds, step).lists?.joins;
  if (!step || !joins || waitsFor <= 1 || !joins.early(step)) return false;
  return clearly(() => joins.enough(stepTurn(turn, turn.at(id, stepId)), step, opened - waitsFor + 1));
}

/** The branches that are not waited for any more: called off, or left to go on beside what follows. */
function leaveOthers(turn: Turn, { id, step: stepId }: Token) {
  const step = turn.release.places.get(stepId)!.step;
  const runOn = stepKind(turn.release.kinds, step).lists?.joins?.othersRunOn(step);
  for (const t of Object.values(turn.state.tokens)) {
    if (t.parent !== id || t.beside) continue;
    if (runOn) turn.raise({ type: "branch let go", token: t.id, step: stepId }, null);
    else callOff(turn, t.id, "enough");
  }
}
