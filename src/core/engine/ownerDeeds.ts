import { isOutside } from "../form";
import { stepKind, type Kinds, type Next } from "../kinds";
import { listsOf, type Step } from "../route";
import { withCover } from "./assign";
import { refusedTo } from "./bar";
import type { Command, Refusal } from "./commands";
import { FURTHEST_LIMIT } from "./dueFor";
import { calendarFor, ladderDates, limitOf, rungsOf, timersOf } from "./ladder";
import { isOfStep, isOpen, isQuestion, type Task } from "./state";
import { taskOver } from "./tasks";
import type { Turn } from "./turn";
import { clearly } from "./unclear";
import { closeVisit, openVisit } from "./visit";
import { endSleep, enter, goOn, proceed, stuck, wake } from "./walk";

/** A way on from a step that an owner may choose in the place of people or conditions. */
export interface WayOn {
  id: string;
  label: string;
  next: Next;
}

/** Behind the step, through none of its lists; no list can have this id. */
const AS_USUAL = "-on";

/**
 * The ways on from a step that decides: the answers people could give, or the lists one of which is gone through. A
 * step that decides nothing has none. Sending back for changes is no way on.
 */
export function waysOn(kinds: Kinds, step: Step): WayOn[] {
  const { asks, lists } = stepKind(kinds, step);
  if (asks)
    return asks
      .answers(step)
      .filter((a) => !a.returns)
      .map((a) => ({ id: a.id, label: a.label, next: asks.answered(step, a.id) }));
  if (!lists || lists.sideBySide) return [];
  const into = listsOf(step, kinds).map((l): WayOn => ({
    id: l.id,
    label: l.name,
    next: { go: "into", list: l.id },
  }));
  // Where the lists are for what may not happen, the usual way is one as well.
  return into.length > 0 && lists.passedBy
    ? [...into, { id: AS_USUAL, label: "go on as usual", next: { go: "on" } }]
    : into;
}

const noWhy = (deed: string): Refusal => ({ code: "note-needed", data: { answer: deed } });

function openOne(turn: Turn, id: string): Task | Refusal {
  const t = turn.state.tasks[id];
  if (!t) return { code: "unknown-task", data: { task: id } };
  return isOpen(t) ? t : taskOver(turn.state, t);
}

export function remind(turn: Turn, c: Extract<Command, { type: "remind" }>): Refusal | null {
  const t = openOne(turn, c.task);
  if ("code" in t) return t;
  turn.raise({ type: "reminded", task: t.id, note: c.note.trim() });
  return null;
}

/** The whole visit gets the limit, because its ladder is one; rungs that would have fired before now are left out. */
export function changeLimit(turn: Turn, c: Extract<Command, { type: "change limit" }>): Refusal | null {
  const t = openOne(turn, c.task);
  if ("code" in t) return t;
  if (c.note.trim() === "") return noWhy("Another limit");
  const { at } = turn.facts;
  if (!Number.isSafeInteger(c.due) || c.due <= at || c.due > at + FURTHEST_LIMIT)
    return { code: "bad-limit", data: { due: c.due } };
  for (const timer of Object.values(turn.state.timers))
    if (timer.visit === t.visit) turn.raise({ type: "timer cleared", timer: timer.id });
  const was = turn.state.visits[t.visit]?.due ?? undefined;
  turn.raise({
    type: "limit changed",
    visit: t.visit,
    step: t.step,
    due: c.due,
    ...(was === undefined ? {} : { was }),
    note: c.note.trim(),
  });
  const step = turn.release.places.get(t.step)?.step;
  const limit = step && isOfStep(t) ? limitOf(turn, step) : undefined;
  if (!limit) return null;
  const asked = Object.values(turn.state.tasks).filter((x) => x.visit === t.visit && isOpen(x));
  const people = asked.flatMap((x) => x.candidates.map((p) => p.person));
  const dates = ladderDates(calendarFor(turn, people), at, c.due, rungsOf(turn, limit));
  const mark = `.${turn.state.seq}`;
  for (const timer of timersOf(t.visit, dates, mark)) turn.raise({ type: "timer set", timer });
  return null;
}

/** Asks somebody by name where a step found nobody; cover and "never the requester" hold as for everybody. */
export function nameSomebody(turn: Turn, c: Extract<Command, { type: "name" }>): Refusal | null {
  const at = turn.state.stuck.find((x) => x.token === c.token && !x.call);
  if (!at) return { code: "not-stuck", data: { token: c.token } };
  if (c.note.trim() === "") return noWhy("Ask somebody");
  const step = turn.release.places.get(at.step)?.step;
  const asks = step && stepKind(turn.release.kinds, step).asks;
  if (!step || !asks) return { code: "asks-nobody", data: { step: step?.name ?? at.step } };
  if (!turn.facts.isActive(c.to) || isOutside(c.to)) return { code: "same-person", data: { person: c.to } };
  const people = withCover(turn, [c.to]);
  const refused = refusedTo(
    turn,
    { purpose: asks.purpose, step: step.id, token: c.token },
    people.map((p) => p.person),
  );
  if (refused) return refused;
  turn.raise({ type: "got unstuck", token: c.token, step: at.step, how: "named", note: c.note.trim() });
  // What else it needs may still not be known: its limit, or what it offers.
  const opened = clearly(() => openVisit(turn, c.token, step, asks.purpose, people));
  if (opened) stuck(turn, c.token, step.id, "go" in opened ? opened.reason : opened);
  return null;
}

/**
 * Lets a token go on that is stuck or whose people are waited for. What a step decides has to be said (`choose-way`),
 * by nobody about their own request where they could not have answered themselves.
 */
export function skip(turn: Turn, c: Extract<Command, { type: "skip" }>): Refusal | null {
  const stuck = turn.state.stuck.find((x) => x.token === c.token);
  const visit = Object.values(turn.state.visits).find((v) => v.token === c.token && !isQuestion(v));
  const sleep = Object.values(turn.state.sleeps).find((z) => z.token === c.token);
  // What is asked of the world inside is done before anybody can ask for this; another request may take long.
  const begun = Object.values(turn.state.pending).find((p) => p.token === c.token);
  const stepId = stuck?.step ?? visit?.step ?? sleep?.step ?? begun?.step;
  if (stepId === undefined) return { code: "not-stuck", data: { token: c.token } };
  const note = c.note.trim();
  if (note === "") return noWhy("Go on without");
  const step = turn.release.places.get(stepId)?.step;
  const changes = visit?.purpose === "changes";
  const ways = step && !changes ? waysOn(turn.release.kinds, step) : [];
  const way = ways.find((w) => w.id === c.way) ?? (ways.length === 1 && c.way === null ? ways[0]! : null);
  if ((ways.length > 0 || c.way !== null) && !way)
    return {
      code: "choose-way",
      data: { step: step?.name ?? stepId, ways: ways.map((w) => w.label) },
    };
  const asks = step ? stepKind(turn.release.kinds, step).asks : null;
  const refused =
    asks && !changes
      ? refusedTo(turn, { purpose: asks.purpose, step: stepId, token: c.token }, [c.actor])
      : null;
  if (refused) return refused;
  turn.raise({
    type: "way chosen",
    token: c.token,
    step: stepId,
    way: way?.id ?? null,
    label: way?.label ?? "",
    note,
  });
  if (sleep && step && way) {
    endSleep(turn, sleep.id, "time");
    goOn(turn, c.token, step, way.next);
    return null;
  }
  if (sleep) {
    wake(turn, sleep.id);
    return null;
  }
  if (stuck) turn.raise({ type: "got unstuck", token: c.token, step: stepId, how: "chosen" });
  if (visit) closeVisit(turn, visit.id, "decided");
  if (!step) {
    proceed(turn, c.token, stepId);
    return null;
  }
  if (changes) {
    turn.raise({ type: "changes sent", visit: visit.id, step: stepId });
    enter(turn, c.token, step);
    return null;
  }
  // What was decided already, and only waits for what was asked for by that, stays whose it is.
  const decided = begun !== undefined || stuck?.effect !== undefined;
  if (asks && way && !decided)
    turn.raise(
      {
        type: "step decided",
        visit: visit?.id ?? "",
        step: stepId,
        answer: way.id,
        label: way.label,
        note,
        given: 0,
      },
      c.actor,
      turn.at(c.token, stepId).scope,
    );
  goOn(turn, c.token, step, way?.next ?? { go: "on" });
  return null;
}
