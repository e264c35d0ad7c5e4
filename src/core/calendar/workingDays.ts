import { Temporal } from "temporal-polyfill";
import type { WorkingCalendar } from "./workingCalendar";
import { openingsOn } from "./workingTime";

/** Ten years of days; a calendar that is closed longer counts as closed for good. */
const MAX_CLOSED = 3660;

const isOpen = (calendar: WorkingCalendar, date: Temporal.PlainDate) => openingsOn(calendar, date).length > 0;

/**
 * The date `days` working days after (before, when negative) a date; the date itself is not counted.
 * @returns null when the calendar has no such day
 */
export function addWorkingDays(
  calendar: WorkingCalendar,
  date: Temporal.PlainDate,
  days: number,
): Temporal.PlainDate | null {
  const step = days < 0 ? -1 : 1;
  let at = date;
  let closed = 0;
  for (let left = Math.abs(days); left > 0;) {
    at = at.add({ days: step });
    if (isOpen(calendar, at)) {
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
  if (Temporal.PlainDate.compare(to, from) < 0) {
    const back = workingDaysBetween(calendar, to, from);
    if (back === null) return null;
    if (back === 0) return 0;
    return -back;
  }
  if (from.until(to).days > 100 * 366) return null;
  let n = 0;
  for (let at = from.add({ days: 1 }); Temporal.PlainDate.compare(at, to) <= 0; at = at.add({ days: 1 }))
    if (isOpen(calendar, at)) n++;
  return n;
}
