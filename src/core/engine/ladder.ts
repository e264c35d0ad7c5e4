import { addLength, type Length, type WorkingCalendar } from "../calendar";
import { stepKind } from "../kinds";
import type { Limit, Rung, Step } from "../route";
import type { Clause } from "../expression";
import type { Timer } from "./state";
import type { At, Turn } from "./turn";

const MAX_TURNS = 50;

/** The length that applies: the first rule that holds, with the reason, else the ordinary one. */
export function lengthFor(turn: Turn, at: At, limit: Limit): { length: Length; why: Clause[] } {
  for (const [i, r] of (limit.rules ?? []).entries()) {
    const { yes, why } = turn.holds(at, `limit ${i}`, r.when);
    if (yes) return { length: r.length, why };
  }
  return { length: limit.otherwise, why: [] };
}

/** The days a limit and its rungs fall on, for one opening; also what the ladder strip draws. */
export interface LadderDates {
  due: number | null;
  rungs: { rung: Rung; turn: number; at: number }[];
}

/** Rungs whose moment had already passed when the step opened are left out: they would all fire at once. */
export function ladderDates(
  calendar: WorkingCalendar,
  openedAt: number,
  length: Length,
  rungs: readonly Rung[],
): LadderDates {
  const due = addLength(calendar, openedAt, length);
  return due === null ? { due, rungs: [] } : ladderAround(calendar, openedAt, due, rungs);
}

/** The same around a limit that is given; rungs that would fall before `from` are left out. */
export function ladderAround(
  calendar: WorkingCalendar,
  from: number,
  due: number,
  rungs: readonly Rung[],
): LadderDates {
  const out: LadderDates["rungs"] = [];
  for (const rung of rungs) {
    const sign = rung.when === "before" ? -1 : 1;
    let at: number | null =
      rung.when === "at" || !rung.length
        ? due
        : addLength(calendar, due, { ...rung.length, amount: sign * rung.length.amount });
    const times = Math.min(rung.every ? (rung.times ?? MAX_TURNS) : 1, MAX_TURNS);
    for (let turn = 1; turn <= times && at !== null; turn++) {
      if (at > from) out.push({ rung, turn, at });
      if (rung.every) at = addLength(calendar, at, rung.every);
    }
  }
  return { due, rungs: out.sort((a, b) => a.at - b.at) };
}

/** The calendar a limit counts in: the person's own when one person is asked, else the process's. */
export function calendarFor(turn: Turn, people: readonly string[]): WorkingCalendar {
  const own = people.length === 1 ? turn.facts.calendarOf(people[0]!) : null;
  return own ?? turn.facts.calendar(turn.release.definition.calendar);
}

/** @param mark tells the timers of a changed limit from the ones before, whose jobs may still be about */
export function timersOf(visit: string, dates: LadderDates, mark = ""): Timer[] {
  return dates.rungs.map(({ rung, turn, at }) => ({
    id: `${visit}.${rung.id}.${turn}${mark}`,
    visit,
    rung: rung.id,
    turn,
    at,
  }));
}

export const limitOf = (turn: Turn, step: Step): Limit | undefined =>
  stepKind(turn.release.kinds, step).asks?.limit(step);
