import { Temporal } from "temporal-polyfill";
import type { DayRule, DaysOfRule } from "./dayRule";
import { opensOn } from "./opensOn";
import type { WorkingCalendar } from "./workingCalendar";

/** Which days something is done on. Weekdays are 1 for Monday to 7 for Sunday; the last of a month is -1. */
export type Timetable =
  | { every: "working day" }
  | { every: "week"; days: number[] }
  | { every: "month"; nth: number; of: "day" | "working day" | number }
  | ({ every: "rule" } & DayRule);

/** What becomes of a day on which the calendar is closed. */
export type OnClosed = "as it is" | "skip" | "before" | "after";

/** Days a closed day may be moved by; where none of them is open it is left out. */
const MOST_MOVED = 40;
/** Days looked at in one go. */
const MOST_DAYS = 1200;

/** Whether a day is one of a timetable's, before it is moved for being closed. */
function isOn(
  t: Exclude<Timetable, { every: "rule" }>,
  day: Temporal.PlainDate,
  calendar: WorkingCalendar,
): boolean {
  switch (t.every) {
    case "working day":
      return opensOn(calendar, day);
    case "week":
      return t.days.includes(day.dayOfWeek);
    case "month":
      return isNth(t, day, calendar);
  }
}

function isNth(
  { nth, of }: Extract<Timetable, { every: "month" }>,
  day: Temporal.PlainDate,
  calendar: WorkingCalendar,
): boolean {
  const counts = (d: Temporal.PlainDate) =>
    of === "day" || (of === "working day" ? opensOn(calendar, d) : d.dayOfWeek === of);
  if (!counts(day)) return false;
  const step = nth < 0 ? 1 : -1;
  let n = 1;
  for (let d = day.add({ days: step }); d.month === day.month; d = d.add({ days: step })) if (counts(d)) n++;
  return n === Math.abs(nth);
}

/** The day it is done on instead, where the calendar is closed on it; null where it is left out. */
function moved(
  day: Temporal.PlainDate,
  closed: OnClosed,
  calendar: WorkingCalendar,
): Temporal.PlainDate | null {
  if (closed === "as it is" || opensOn(calendar, day)) return day;
  if (closed === "skip") return null;
  const days = closed === "before" ? -1 : 1;
  let at = day;
  for (let n = 0; n < MOST_MOVED; n++) {
    at = at.add({ days });
    if (opensOn(calendar, at)) return at;
  }
  return null;
}

/** The days of a timetable from one day to another, before any is moved. */
function daysIn(
  t: Timetable,
  first: Temporal.PlainDate,
  last: Temporal.PlainDate,
  calendar: WorkingCalendar,
  daysOfRule: DaysOfRule,
): readonly Temporal.PlainDate[] {
  if (t.every === "rule") return daysOfRule(t, first, last);
  const out: Temporal.PlainDate[] = [];
  for (let day = first; Temporal.PlainDate.compare(day, last) <= 0; day = day.add({ days: 1 }))
    if (isOn(t, day, calendar)) out.push(day);
  return out;
}

/**
 * The days of a timetable after one day, up to and with another, in order; each once, though two may have been moved to
 * it. Of more than so many days only the last are looked at.
 */
export function timetableDays(
  t: Timetable,
  closed: OnClosed,
  after: Temporal.PlainDate,
  to: Temporal.PlainDate,
  calendar: WorkingCalendar,
  daysOfRule: DaysOfRule,
): Temporal.PlainDate[] {
  const first = to.subtract({ days: MOST_DAYS });
  const from = Temporal.PlainDate.compare(after, first) < 0 ? first : after;
  const out = new Map<string, Temporal.PlainDate>();
  for (const day of daysIn(
    t,
    from.subtract({ days: MOST_MOVED }),
    to.add({ days: MOST_MOVED }),
    calendar,
    daysOfRule,
  )) {
    const at = moved(day, closed, calendar);
    if (at && Temporal.PlainDate.compare(at, from) > 0 && Temporal.PlainDate.compare(at, to) <= 0)
      out.set(at.toString(), at);
  }
  return [...out.values()].sort((a, b) => Temporal.PlainDate.compare(a, b));
}
