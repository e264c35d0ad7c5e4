import { Temporal } from "temporal-polyfill";
import { addLength, endOfWork, type LengthUnit, type WorkingCalendar } from "../calendar";
import { epochOf, isDate, isDateTime, isDaysTime, isNum, type Clause, type Value } from "../expression";
import { LIMIT_PLACES, type FormulaLength, type Limit, type LimitFrom, type RuleLength } from "../route";
import type { At, Turn } from "./turn";

/** Furthest a limit may lie away, in milliseconds: ten years. */
export const FURTHEST_LIMIT = 10 * 366 * 86_400_000;

/** When a limit is reached; null where its calendar is never open. */
export interface Reached {
  due: number | null;
  why: Clause[];
  /** It counts by the clock, and not by working time. */
  clock: boolean;
}

/**
 * When a limit is reached that begins to count now, or from the moment it says: by the first rule that holds and comes to
 * something, else by the ordinary length. One that would have been over before is over now.
 * @throws Unclear where a rule cannot be worked out, or comes to no length, no day, or more than ten years
 */
export function dueFor(turn: Turn, at: At, limit: Limit, calendar: WorkingCalendar): Reached {
  const { at: now } = turn.facts;
  const from = countsFrom(turn, at, limit.from, calendar);
  for (const [i, r] of (limit.rules ?? []).entries()) {
    const { yes, why } = turn.holds(at, LIMIT_PLACES.when(i), r.when);
    if (!yes) continue;
    const reached = reachedBy(turn, at, LIMIT_PLACES.length(i), r.length, calendar, from.at);
    if (reached === "nothing") continue;
    return {
      due: reached.due === null ? null : Math.max(reached.due, now),
      // What always holds is no reason.
      why: [...why.filter((c) => c.text !== "true"), ...reached.why, ...from.why],
      clock: reached.clock,
    };
  }
  const due = addLength(calendar, from.at, limit.otherwise);
  return {
    due: due === null ? null : Math.max(due, now),
    why: from.why,
    clock: byClock(limit.otherwise.unit),
  };
}

function countsFrom(
  turn: Turn,
  at: At,
  from: LimitFrom | undefined,
  calendar: WorkingCalendar,
): { at: number; why: Clause[] } {
  const { at: now } = turn.facts;
  if (!from) return { at: now, why: [] };
  switch (from.by) {
    case "start":
      return { at: turn.state.startedAt, why: [] };
    case "day":
    case "moment": {
      const place = LIMIT_PLACES.from;
      const { formula: text } = from;
      const v = turn.value(at, place, text);
      if (v === null) return { at: now, why: [] };
      const moment = momentOf(v, calendar);
      if (moment === null || Math.abs(moment - now) > FURTHEST_LIMIT)
        throw turn.unfit(
          at.step,
          place,
          text,
          "A limit counts from a day, or a date and time, within ten years.",
        );
      return { at: moment, why: turn.whyOf(at, place, text) };
    }
  }
}

function reachedBy(
  turn: Turn,
  at: At,
  place: string,
  length: RuleLength,
  calendar: WorkingCalendar,
  from: number,
): Reached | "nothing" {
  if ("amount" in length)
    return { due: addLength(calendar, from, length), why: [], clock: byClock(length.unit) };
  const { formula: text } = length;
  const v = turn.value(at, place, text);
  const most = length.most ? addLength(calendar, from, length.most) : Infinity;
  if (v === null) return "nothing";
  const due = momentMeant(length, v, calendar, from);
  const { at: now } = turn.facts;
  if (due === "other" || (due !== null && Math.abs(due - now) > FURTHEST_LIMIT))
    throw turn.unfit(at.step, place, text, SHOULD_BE[length.by]);
  return {
    due: due === null || most === null ? null : Math.min(due, most),
    why: turn.whyOf(at, place, text),
    // A day is its working time, wherever in it the limit falls.
    clock: length.by === "lasting" || (length.by === "count" && byClock(length.unit)),
  };
}

/** What is kept of how a limit counts: nothing where it never stands still. */
export const clockOf = (limit: Limit | undefined, reached: Reached | null): { clock?: true } =>
  limit?.still && reached?.clock ? { clock: true } : {};

const byClock = (unit: LengthUnit): boolean => unit !== "working hours" && unit !== "working days";

const NS_OF_MS = 1_000_000n;

const SHOULD_BE = {
  count: "A limit is a number of its unit, for example 2, and ten years at most.",
  lasting: "A limit by a length of time comes to one of ten years at most, for example 36 hours.",
  day: "A limit by a day comes to a day within ten years, for example 12 March 2027.",
  moment: "A limit by a moment comes to a date and time within ten years.",
} as const;

/** @returns "other" for what is none, null where the calendar is never open */
function momentMeant(
  length: FormulaLength,
  v: Value,
  calendar: WorkingCalendar,
  from: number,
): number | null | "other" {
  switch (length.by) {
    case "count": {
      const amount = isNum(v) ? v.toNumber() : NaN;
      if (!(Math.abs(amount) <= MOST_OF[length.unit])) return "other";
      return addLength(calendar, from, { amount, unit: length.unit });
    }
    case "lasting": {
      const ms = isDaysTime(v) ? Number(v.ns / NS_OF_MS) : NaN;
      return Math.abs(ms) <= FURTHEST_LIMIT ? from + ms : "other";
    }
    case "day": {
      const day = dayOf(v, calendar);
      return day === null ? "other" : endOfWork(calendar, day);
    }
    case "moment":
      return momentOf(v, calendar) ?? "other";
  }
}

/** Ten years of each, so that no calendar is gone through for longer. */
const MOST_OF = {
  minutes: 5_270_400,
  hours: 87_840,
  days: 3_660,
  "working hours": 87_840,
  "working days": 3_660,
} as const;

/** Further off no zone tells what its clocks show. */
const isNear = ({ year }: { year: number }) => year >= 1 && year <= 9999;

function momentOf(v: Value, { zone }: WorkingCalendar): number | null {
  if (isDate(v)) return isNear(v) ? v.toZonedDateTime(zone).epochMilliseconds : null;
  return isDateTime(v) && isNear(v) ? epochOf(v, zone) : null;
}

function dayOf(v: Value, calendar: WorkingCalendar): Temporal.PlainDate | null {
  if (isDate(v)) return isNear(v) ? v : null;
  const moment = momentOf(v, calendar);
  return moment === null
    ? null
    : Temporal.Instant.fromEpochMilliseconds(moment).toZonedDateTimeISO(calendar.zone).toPlainDate();
}
