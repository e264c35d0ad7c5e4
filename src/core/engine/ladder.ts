import { addLength, type WorkingCalendar } from "../calendar";
import { stepKind } from "../kinds";
import type { Limit, Rung, Step } from "../route";
import { ladderOwner } from "./release";
import type { Timer } from "./state";
import type { Turn } from "./turn";

const MAX_TURNS = 50;

/** The days a limit and its rungs fall on, for one opening; also what the ladder strip draws. */
export interface LadderDates {
  due: number | null;
  rungs: { rung: Rung; turn: number; at: number }[];
}

/**
 * The moments of rungs around a limit. Those before it that would have fallen before `from` are left out: they would all
 * fire at once. What is to happen once it is reached does also where it is over already.
 * @param due null where it never is
 */
export function ladderDates(
  calendar: WorkingCalendar,
  from: number,
  due: number | null,
  rungs: readonly Rung[],
): LadderDates {
  if (due === null) return { due, rungs: [] };
  const out: LadderDates["rungs"] = [];
  for (const rung of rungs) {
    const sign = rung.when === "before" ? -1 : 1;
    let at: number | null =
      rung.when === "at" || !rung.length
        ? due
        : addLength(calendar, due, { ...rung.length, amount: sign * rung.length.amount });
    const times = Math.min(rung.every ? (rung.times ?? MAX_TURNS) : 1, MAX_TURNS);
    for (let turn = 1; turn <= times && at !== null; turn++) {
      if (at > from || (rung.when !== "before" && at === from)) out.push({ rung, turn, at });
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

/** The rungs of a limit: its own, or those of the ladder it goes by. */
export const rungsOf = ({ release }: Turn, limit: Limit): readonly Rung[] =>
  limit.ladder === undefined ? limit.rungs : (release.ladders.get(ladderOwner(limit.ladder))?.rungs ?? []);
