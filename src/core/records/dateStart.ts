import { Temporal } from "temporal-polyfill";
import { addWorkingDays, type WorkingCalendar } from "../calendar";

/** Days before (less than none) or after a date on which it comes near. */
export interface NearDate {
  days: number;
  working: boolean;
}
/** Days without an opening after which a calendar has none; then no day can be told. */
const MOST_CLOSED = 800;

/** The day on which a date comes near; null where the calendar has no such day. */
export const nearDay = (
  { days, working }: NearDate,
  date: Temporal.PlainDate,
  calendar: WorkingCalendar,
): Temporal.PlainDate | null => (working ? addWorkingDays(calendar, date, days) : date.add({ days }));

/** The last date that has come near by a day: later dates never come near earlier. */
function lastNearBy(
  near: NearDate,
  day: Temporal.PlainDate,
  calendar: WorkingCalendar,
): Temporal.PlainDate | null {
  const from = nearDay({ ...near, days: -near.days }, day, calendar);
  if (!from) return null;
  const by = (date: Temporal.PlainDate) => {
    const near1 = nearDay(near, date, calendar);
    return near1 !== null && Temporal.PlainDate.compare(near1, day) <= 0;
  };
  let at = from;
  for (let n = 0; !by(at); n++) {
    if (n > MOST_CLOSED) return null;
    at = at.subtract({ days: 1 });
  }
  for (let n = 0; by(at.add({ days: 1 })); n++) {
    if (n > MOST_CLOSED) return null;
    at = at.add({ days: 1 });
  }
  return at;
}

/**
 * The dates that come near on the days after `looked`, up to and with `day`: those after the first of the two given,
 * up to and with the second. Null where the calendar never opens.
 */
export function datesNear(
  near: NearDate,
  looked: Temporal.PlainDate,
  day: Temporal.PlainDate,
  calendar: WorkingCalendar,
): { after: Temporal.PlainDate; to: Temporal.PlainDate } | null {
  const after = lastNearBy(near, looked, calendar);
  const to = lastNearBy(near, day, calendar);
  return after && to && { after, to };
}
