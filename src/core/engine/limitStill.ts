import { addLength, workingBetween, type WorkingCalendar } from "../calendar";
import { calendarFor, ladderDates, limitOf, rungsOf, timersOf } from "./ladder";
import { isOfStep, isOpen, type StoppedLimit, type Task } from "./state";
import type { Turn } from "./turn";

const HOUR = 3_600_000;

/**
 * The limit of a visit stands still while somebody is asked something, where it says so: nothing of its ladder happens, and
 * nobody is late meanwhile. One that is over already is.
 */
export function stopLimit(turn: Turn, id: string): void {
  const visit = turn.state.visits[id];
  if (!visit || visit.due === null || visit.due <= turn.facts.at || !isHeld(turn, id)) return;
  const timers = Object.values(turn.state.timers).filter((t) => t.visit === id);
  for (const t of timers) turn.raise({ type: "timer cleared", timer: t.id }, null);
  const left = timers.map((t) => `${t.rung}.${t.turn}`);
  turn.raise({ type: "limit stopped", visit: id, step: visit.step, left }, null);
}

/**
 * It goes on once nobody is asked any more for whom it stands still: as much is left of it as there was, by the clock or in
 * working time, as it counts. Of its ladder follows what had not happened before.
 */
export function limitGoesOn(turn: Turn, id: string): void {
  const visit = turn.state.visits[id];
  const step = visit ? turn.release.places.get(visit.step)?.step : undefined;
  if (!visit?.stopped || !step || isHeld(turn, id)) return;
  const { stopped } = visit;
  const { at } = turn.facts;
  const asked = Object.values(turn.state.tasks).filter((t) => t.visit === id && isOpen(t));
  const calendar = calendarFor(
    turn,
    asked.flatMap((t) => t.candidates.map((c) => c.person)),
  );
  const due = laterBy(calendar, stopped, visit.clock === true, at);
  turn.raise({ type: "limit goes on", visit: id, step: step.id, due }, null);
  const limit = limitOf(turn, step);
  const dates = ladderDates(calendar, at, due, limit ? rungsOf(turn, limit) : []);
  const left = new Set(stopped.left);
  const rungs = dates.rungs.filter((r) => left.has(`${r.rung.id}.${r.turn}`));
  const mark = `.${turn.state.seq}`;
  for (const timer of timersOf(id, { due, rungs }, mark)) turn.raise({ type: "timer set", timer }, null);
}

/** When it is reached that stood still until now; null where its calendar is never open. */
function laterBy(
  calendar: WorkingCalendar,
  { since, due }: StoppedLimit,
  clock: boolean,
  now: number,
): number | null {
  if (clock) return now + (due - since);
  const amount = workingBetween(calendar, since, due) / HOUR;
  return addLength(calendar, now, { amount, unit: "working hours" });
}

/** Whether somebody is asked for whom the limit of a visit stands still. */
function isHeld(turn: Turn, id: string): boolean {
  const visit = turn.state.visits[id];
  const step = visit ? turn.release.places.get(visit.step)?.step : undefined;
  const still = visit && step && isOfStep(visit) ? limitOf(turn, step)?.still : undefined;
  if (still === undefined) return false;
  const counts = (t: Task) => still === "anybody" || t.purpose === "question";
  return Object.values(turn.state.tasks).some((t) => t.question?.visit === id && isOpen(t) && counts(t));
}
