import { accountOf } from "../form";
import { askInstead, askOthers } from "./askOthers";
import { answer } from "./answer";
import { begin } from "./begin";
import { allTasks, BETWEEN, isLive, levelOf } from "./callIds";
import { commandInside } from "./commandInside";
import type { Command, Refusal } from "./commands";
import type { Effect } from "./effects";
import type { RequestEvent } from "./events";
import type { EngineFacts } from "./facts";
import { timeReached } from "./fireRung";
import { handOver, reassign } from "./handOver";
import type { CompiledRelease } from "./release";
import { isEnded, isOpen, type RequestState } from "./state";
import { stepTurn } from "./stepTurn";
import { ask, endQuestions } from "./questions";
import { keepSpans } from "./spans";
import { lookAgain } from "./lookAgain";
import { notDelivered } from "./notDelivered";
import { replied } from "./replied";
import { takeBack } from "./takeBack";
import { putBack, take, taskOver } from "./tasks";
import { Turn } from "./turn";
import { closeAll } from "./visit";
import { clearly } from "./unclear";
import { enter, goOn, goThrough, placeFirst, proceed, stuck, workIn } from "./walk";
import { changeLimit, nameSomebody, remind, skip } from "./ownerDeeds";

export type Decision =
  | {
      ok: true;
      state: RequestState;
      events: RequestEvent[];
      effects: Effect[];
      /** How far it went, in moves: for whoever decides one command in several parts. */
      moved: number;
    }
  | { ok: false; refusal: Refusal };

/**
 * One request's whole behaviour: a command against the present state gives events and effects, or a
 * refusal. Pure and total; the clock, the office and all records come in through `facts`.
 * @param moved how far the same command went in what was decided of it before
 */
export function decide(
  release: CompiledRelease,
  state: RequestState,
  command: Command,
  facts: EngineFacts,
  moved = 0,
): Decision {
  const turn = new Turn(release, state, facts, "actor" in command ? command.actor : null, moved);
  const refusal = carryOutAndLook(turn, command);
  return refusal ? { ok: false, refusal } : decided(turn);
}

/** Carries out a command, and goes on with what was waited for where it has come by that. */
function carryOutAndLook(turn: Turn, command: Command): Refusal | null {
  const before = turn.state;
  const refusal = carryOut(turn, command);
  if (!refusal) lookAgain(turn, before, command.type === "look");
  return refusal;
}
const decided = (turn: Turn): Decision => ({
  ok: true,
  state: turn.state,
  events: turn.events,
  effects: turn.effects,
  moved: turn.moved,
});

/**
 * The same, and what the request is called then, worked out beside it because it reads the same. The title is null where
 * steps set values or found something: what those lead to is not in `facts`, which were read before.
 */
export function decideAndName(
  release: CompiledRelease,
  state: RequestState,
  command: Command,
  facts: EngineFacts,
  moved = 0,
): { decision: Decision; title: string | null } {
  const turn = new Turn(release, state, facts, "actor" in command ? command.actor : null, moved);
  const refusal = carryOutAndLook(turn, command);
  if (refusal) return { decision: { ok: false, refusal }, title: null };
  return {
    decision: decided(turn),
    title: turn.events.some((e) => e.type === "values set" || e.type === "records kept")
      ? null
      : turn.title(),
  };
}

/**
 * Carries out a command; whoever has come to be kept apart by it is asked no more, nor is what was asked beside a task that
 * is over, and limits of parts follow where it stands now.
 */
function carryOut(turn: Turn, c: Command): Refusal | null {
  const refused = carriedOut(turn, c) ?? askInstead(turn);
  if (!refused) endQuestions(turn);
  if (!refused) keepSpans(turn);
  return refused;
}

function carriedOut(turn: Turn, c: Command): Refusal | null {
  const s = turn.state;
  if (c.type === "start") return start(turn, c);
  if (c.type === "not delivered" && isOver(s, c.effect.id)) {
    notDelivered(turn, { ...c, effect: { ...c.effect, step: "", scope: null } });
    return null;
  }
  const into = commandInside(c);
  if (into) {
    const gone = into.late ? null : into.refusal;
    return workIn(turn, into.call, (inner) => carryOut(inner, into.command), gone);
  }
  // What comes from outside or by the clock may come late, and then means nothing any more.
  const late =
    c.type === "time reached" ||
    c.type === "effect done" ||
    c.type === "effect failed" ||
    c.type === "not delivered" ||
    c.type === "replied" ||
    c.type === "call off" ||
    c.type === "ask others" ||
    c.type === "look" ||
    c.type === "remove files" ||
    c.type === "go on";
  if (isEnded(s) && !late) {
    const task = "task" in c ? s.tasks[c.task] : undefined;
    // One that is open still is done beside the request, and stays when it has ended.
    if (!task) return { code: "ended", data: { status: s.status } };
    if (!isOpen(task)) return taskOver(s, task);
  }
  switch (c.type) {
    case "answer":
      return answer(turn, c);
    case "take":
      return take(turn, c);
    case "put back":
      return putBack(turn, c);
    case "take back":
      return takeBack(turn, c);
    case "hand over":
      return handOver(turn, c);
    case "ask":
      return ask(turn, c);
    case "reassign":
      return reassign(turn, c);
    case "withdraw":
      if (c.actor !== accountOf(s.requester))
        return { code: "not-requester", data: { requester: s.requester } };
      closeAll(turn, true);
      turn.raise({ type: "request withdrawn", note: c.note });
      return null;
    case "cancel":
      closeAll(turn, true);
      turn.raise({ type: "request cancelled", note: c.note });
      return null;
    case "call off":
      if (isEnded(s)) return null;
      closeAll(turn, true);
      turn.raise({ type: "request cancelled", note: "", calledOff: true });
      return null;
    case "time reached":
      timeReached(turn, c.timer);
      return null;
    case "ask others":
      askOthers(turn);
      return inEveryCall(turn, c);
    case "remove files":
      // While it is under way, whatever follows may read them.
      if (isEnded(s)) turn.raise({ type: "files removed", count: c.count, bytes: c.bytes }, null);
      return null;
    case "look":
      // Whatever was done, it is looked.
      return null;
    case "go on":
      goOnParked(turn);
      return inEveryCall(turn, c);
    case "effect done":
      effectDone(turn, c);
      return null;
    case "effect failed": {
      const p = s.pending[c.effect];
      if (!p) return null;
      const { scope = null } = s.tokens[p.token] ?? {};
      turn.raise(
        { type: "effect failed", effect: c.effect, step: p.step, reason: c.reason },
        turn.actor,
        scope,
      );
      stuck(turn, p.token, p.step, c.reason, c.effect);
      return null;
    }
    case "not delivered":
      notDelivered(turn, c);
      return null;
    case "replied":
      replied(turn, c);
      return null;
    case "retry":
      return retry(turn, c);
    case "remind":
      return remind(turn, c);
    case "change limit":
      return changeLimit(turn, c);
    case "name":
      return nameSomebody(turn, c);
    case "skip":
      return skip(turn, c);
  }
}

/** Whether an id leads into a procedure that has ended: nothing in it goes on, and the request is told instead. */
function isOver(s: RequestState, id: string): boolean {
  if (!id.includes(BETWEEN)) return false;
  const level = levelOf(s, id);
  return level === null || level.calls.some((call) => call.over || !isLive(call));
}

/** The same in all procedures under way, and in those that left a task that stays. */
function inEveryCall(turn: Turn, c: Command): null {
  for (const call of Object.values(turn.state.calls))
    if (isLive(call) || allTasks(call.state).some(isOpen))
      workIn(turn, call.id, (inner) => carryOut(inner, c), null);
  return null;
}

/** Goes on with runs of which a command before opened as many rounds as one may. */
function goOnParked(turn: Turn) {
  for (const run of Object.values(turn.whole().runs)) {
    if (!run.parked) continue;
    turn.raise({ type: "run went on", run: run.id, step: run.step }, null);
    turn.agenda.push({ run: run.id });
  }
  goThrough(turn);
}

function start(turn: Turn, c: Extract<Command, { type: "start" }>): Refusal | null {
  if (turn.state.status !== "new") return { code: "already-started", data: { number: turn.state.number } };
  const refused = begin(turn, c);
  if (refused) return refused;
  placeFirst(turn);
  return null;
}

function retry(turn: Turn, c: Extract<Command, { type: "retry" }>): Refusal | null {
  const at = turn.state.stuck.find((x) => x.token === c.token && !x.call);
  if (!at) return { code: "not-stuck", data: { token: c.token } };
  turn.raise({ type: "got unstuck", token: c.token, step: at.step, how: "retried" });
  const step = turn.release.places.get(at.step)?.step;
  if (step) enter(turn, c.token, step, at.effect);
  else proceed(turn, c.token, at.step);
  return null;
}

function effectDone(turn: Turn, c: Extract<Command, { type: "effect done" }>) {
  const { id, kind } = c.effect;
  const p = turn.state.pending[id];
  const behaviour = turn.release.kinds.steps[kind];
  // Somebody waited for it and does so no more: it came twice, or the request went another way.
  if (!p && behaviour.done) return;
  const done = { kind, result: c.result } as Extract<RequestEvent, { type: "effect done" }>;
  const scope = p ? (turn.state.tokens[p.token]?.scope ?? null) : null;
  turn.raise({ ...done, type: "effect done", effect: id, step: p?.step ?? c.effect.step }, turn.actor, scope);
  if (!p) return;
  const step = turn.release.places.get(p.step)?.step;
  if (!step || !behaviour.done) return proceed(turn, p.token, p.step);
  const { done: goesOn } = behaviour;
  goOn(
    turn,
    p.token,
    step,
    clearly(() => goesOn(stepTurn(turn, turn.at(p.token, step.id)), step, c.result)),
  );
}
