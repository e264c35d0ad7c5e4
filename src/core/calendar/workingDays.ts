import { Temporal } from "temporal-polyfill";
import { MAX_CLOSED, opensOn } from "./opensOn";
import type { WorkingCalendar } from "./workingCalendar";

const { compare } = Temporal.PlainDate;

/** Days of an ordinary week on which work begins. */
const perWeek = (calendar: WorkingCalendar): number =>
  ["1", "2", "3", "4", "5", "6", "7"].filter((d) => (calendar.week[d] ?? []).length > 0).length;

/** Holidays behind the first date up to and with the second that would have been working days, each once. */
function lost(calendar: WorkingCalendar, after: Temporal.PlainDate, to: Temporal.PlainDate): number {
  let n = 0;
  for (const text of new Set(calendar.holidays)) {
    const day = Temporal.PlainDate.from(text);
    if (
      compare(day, after) > 0 &&
      compare(day, to) <= 0 &&
      (calendar.week[String(day.dayOfWeek)] ?? []).length > 0
    )
      n++;
  }
  return n;
}

/**
 * The date `days` working days after (before, when negative) a date; the date itself is not counted. Whole weeks are
 * reckoned and their holidays taken off, so that it makes no difference how many there are.
 * @returns null when the calendar has no such day
 */
export function addWorkingDays(
  calendar: WorkingCalendar,
  date: Temporal.PlainDate,
  days: number,
): Temporal.PlainDate | null {
  const week = perWeek(calendar);
  const step = days < 0 ? -1 : 1;
  let left = Math.abs(days);
  let at = date;
  if (week === 0) return left === 0 ? at : null;
  while (left > 2 * week) {
    const weeks = Math.floor(left / week) - 1;
    const to = at.add({ days: step * 7 * weeks });
    // Backwards the date reached counts and the one left does not, as forwards.
    const holidays =
      step > 0 ? lost(calendar, at, to) : lost(calendar, to.subtract({ days: 1 }), at.subtract({ days: 1 }));
    left -= weeks * week - holidays;
    at = to;
  }
  for (let closed = 0; left > 0;) {
    at = at.add({ days: step });
    if (opensOn(calendar, at)) {
      left--;
      closed = 0;
    } else if (++closed > MAX_CLOSED) return null;
  }
  return at;
}

/** Working days after the first date up to and with the second; negative when the second is earlier. */
export function workingDaysBetween(
  calendar: WorkingCalendar,
  from: Temporal.PlainDate,
  to: Temporal.PlainDate,
): number | null {
  if (compare(to, from) < 0) {
    const back = workingDaysBetween(calendar, to, from);
    if (back === null) return null;
    return back === 0 ? 0 : -back;
  }
  const days = from.until(to).days;
  if (days > 100 * 366) return null;
  const weeks = Math.floor(days / 7);
  let n = weeks * perWeek(calendar);
  for (let i = weeks * 7 + 1; i <= days; i++)
    if ((calendar.week[String(from.add({ days: i }).dayOfWeek)] ?? []).length > 0) n++;
  return n - lost(calendar, from, to);
}
