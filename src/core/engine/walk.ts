import { stepKind, type Next } from "../kinds";
import { branchesAround, following, listsOf, type Step } from "../route";
import { isEnded, type StuckReason } from "./state";
import { stepTurn } from "./stepTurn";
import { MAX_MOVES, type Turn } from "./turn";
import { clearly, type StuckHere } from "./unclear";
import { askPeople, closeAll } from "./visit";

/** Puts a token on a step and lets it do what it does; goes on until everything waits or has ended. */
export function enter(turn: Turn, token: string, step: Step, effect?: string): void {
  turn.agenda.push({ token, step, ...(effect === undefined ? {} : { effect }) });
  goThrough(turn);
}

/**
 * Goes through what is to be entered, the last put on it first: that is the order in which calls within calls would go,
 * without their depth, so that a circle of branches is found and does not exhaust the stack.
 */
function goThrough(turn: Turn): void {
  // Somebody further up does it.
  if (turn.walking) return;
  turn.walking = true;
  for (let next = turn.agenda.pop(); next; next = turn.agenda.pop()) {
    if (isEnded(turn.state)) continue;
    if (next.step) walk(turn, next.token, next.step, next.effect);
    else endBranch(turn, next.token, next.of);
  }
  turn.walking = false;
}

function walk(turn: Turn, token: string, step: Step, effect?: string): void {
  let next: Step | null = step;
  let retried = effect;
  while (next && !isEnded(turn.state)) {
    if (--turn.moves < 0)
      return stuck(turn, token, next.id, { code: "runaway", data: { step: next.name, limit: MAX_MOVES } });
    if (turn.state.tokens[token]?.step !== next.id) turn.raise({ type: "token moved", token, step: next.id });
    const at: Step = next;
    const answer = clearly(() => stepKind(turn.release.kinds, at).enter(stepTurn(turn, at.id), at));
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
  const next = following(turn.release.places, stepId);
  if (next === "branch end") {
    endBranch(turn, token, stepId);
    return null;
  }
  if (next === null) end(turn, stepId, "Done", "plain");
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
    case "asks": {
      const refused = clearly(() => askPeople(turn, token, step));
      if (refused) stuck(turn, token, step.id, "go" in refused ? refused.reason : refused);
      return null;
    }
    case "waits":
      turn.send(step.id, next.work, token, effect);
      return null;
    case "stuck":
      stuck(turn, token, step.id, next.reason);
      return null;
    case "end":
      end(turn, step.id, next.result, next.tone);
      return null;
  }
}

export function stuck(turn: Turn, token: string, step: string, reason: StuckReason, effect?: string) {
  turn.raise({ type: "got stuck", token, step, reason, ...(effect ? { effect } : {}) }, null);
}

/** Ends a request; nothing may stay open behind it. */
function end(turn: Turn, step: string, result: string, tone: "agree" | "refuse" | "plain") {
  closeAll(turn);
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

function endBranch(turn: Turn, token: string, step: string) {
  const parent = turn.state.tokens[token]?.parent;
  turn.raise({ type: "branch ended", token, step }, null);
  if (!parent) return;
  const others = Object.values(turn.state.tokens).some((t) => t.parent === parent);
  const at = turn.state.tokens[parent];
  if (!others && at) proceed(turn, parent, at.step);
}
