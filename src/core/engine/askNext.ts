import type { Step } from "../route";
import { withCover } from "./assign";
import { barFor } from "./bar";
import { dutiesAt } from "./dutiesAt";
import { clockOf, dueFor } from "./dueFor";
import { calendarFor, ladderDates, limitOf, rungsOf, timersOf } from "./ladder";
import { isOpen, type StuckReason, type Visit } from "./state";
import type { Turn } from "./turn";
import { clearly } from "./unclear";
import { closeVisit, newTask } from "./visit";
import { stuck } from "./walk";

/**
 * Asks the next of those who are asked one after another, once nobody of them has it: their cover where they are away,
 * and nobody who has answered already, has left, or may not answer by now; so many fewer are asked. Each has the whole
 * limit from when it comes to them.
 * @returns whether nobody is left of them, which settles it
 */
export function askNext(turn: Turn, { id, step: stepId, token, purpose }: Visit, step: Step): boolean {
  const visit = turn.state.visits[id];
  const tasks = Object.values(turn.state.tasks).filter((t) => t.visit === id);
  if (!visit?.rest || tasks.some(isOpen)) return false;
  const at = turn.at(token, stepId);
  const bar = clearly(() => barFor(turn, { purpose, step: stepId, token }));
  const limit = limitOf(turn, step);
  if ("go" in bar) return giveUp(turn, visit, bar.reason);
  const answered = new Set(tasks.flatMap((t) => (t.status === "answered" && t.by ? [t.by] : [])));
  const duties = dutiesAt(turn, at, step);
  let dropped = 0;
  for (const [i, person] of visit.rest.entries()) {
    const next = withCover(turn, [person], duties)[0]!;
    const fits = turn.facts.isActive(next.person) && bar(next.person) === null && !answered.has(next.person);
    if (!fits) {
      dropped++;
      continue;
    }
    const calendar = calendarFor(turn, [next.person]);
    const reached = limit ? clearly(() => dueFor(turn, at, limit, calendar)) : null;
    if (reached && "go" in reached) return giveUp(turn, visit, reached.reason);
    for (const timer of Object.values(turn.state.timers))
      if (timer.visit === id) turn.raise({ type: "timer cleared", timer: timer.id }, null);
    const dates = ladderDates(
      calendar,
      turn.facts.at,
      reached?.due ?? null,
      limit ? rungsOf(turn, limit) : [],
    );
    const rest = visit.rest.slice(i + 1);
    turn.raise(
      {
        type: "next asked",
        visit: id,
        step: stepId,
        rest,
        asked: visit.asked - dropped,
        due: dates.due,
        ...clockOf(limit, reached),
      },
      null,
      at.scope,
    );
    const of = { visit: id, step: stepId, token, purpose, due: dates.due };
    turn.raise({ type: "task opened", task: newTask(turn, of, [next]) }, null);
    const mark = `.${turn.state.seq}`;
    for (const timer of timersOf(id, dates, mark)) turn.raise({ type: "timer set", timer }, null);
    return false;
  }
  if (answered.size === 0)
    return giveUp(turn, visit, {
      code: "nobody",
      data: { step: step.name, rule: "those asked one after another" },
    });
  turn.raise(
    { type: "next asked", visit: id, step: stepId, rest: [], asked: visit.asked - dropped, due: visit.due },
    null,
    at.scope,
  );
  return true;
}

/** Nobody can be asked: the step is stuck, and a retry asks all of them anew. */
function giveUp(turn: Turn, { id, step, token }: Visit, reason: StuckReason): false {
  closeVisit(turn, id, "left");
  turn.raise({ type: "visit given up", visit: id, step }, null);
  stuck(turn, token, step, reason);
  return false;
}
