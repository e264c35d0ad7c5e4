import { Temporal } from "temporal-polyfill";
import { addWorkingDays, type WorkingCalendar } from "../calendar";
import { dateFrom, isDate } from "../expression";

/** Days before (less than none) or after a date on which it comes near. */
interface NearDays {
  days: number;
  working: boolean;
}
/** The same; or so many hours or minutes by the clock, of a moment. */
export interface NearDate extends NearDays {
  clock: "hours" | "minutes" | null;
}
/** Days without an opening after which a calendar has none; then no day can be told. */
const MOST_CLOSED = 800;

/** The day on which a date comes near; null where the calendar has no such day. */
export const nearDay = (
  { days, working }: NearDays,
  date: Temporal.PlainDate,
  calendar: WorkingCalendar,
): Temporal.PlainDate | null => (working ? addWorkingDays(calendar, date, days) : date.add({ days }));

/** The last date that has come near by a day: later dates never come near earlier. */
function lastNearBy(
  near: NearDays,
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
  near: NearDays,
  looked: Temporal.PlainDate,
  day: Temporal.PlainDate,
  calendar: WorkingCalendar,
): { after: Temporal.PlainDate; to: Temporal.PlainDate } | null {
  const after = lastNearBy(near, looked, calendar);
  const to = lastNearBy(near, day, calendar);
  return after && to && { after, to };
}

const dayOf = (text: string): Temporal.PlainDate => Temporal.PlainDate.from(text);
const shifted = (clock: "hours" | "minutes", moment: string, n: number): string =>
  Temporal.PlainDateTime.from(moment)
    .add({ [clock]: n })
    .toString({ smallestUnit: "minute" });

/**
 * When a date of a record comes near, as that is kept: a day ("2026-03-03"), or a moment ("2026-03-03T10:00") where it is
 * counted by the clock. Texts of one kind stand in the order of what they say. Null where the calendar has no such day.
 */
export function comesNear(near: NearDate, date: string, calendar: WorkingCalendar): string | null {
  if (near.clock !== null) return shifted(near.clock, date, near.days);
  return nearDay(near, dayOf(date), calendar)?.toString() ?? null;
}

/** The dates that come near after one time and up to another, as `datesNear`; times and dates as they are kept. */
export function cameNear(
  near: NearDate,
  looked: string,
  now: string,
  calendar: WorkingCalendar,
): { after: string; to: string } | null {
  if (near.clock !== null)
    return { after: shifted(near.clock, looked, -near.days), to: shifted(near.clock, now, -near.days) };
  const range = datesNear(near, dayOf(looked), dayOf(now), calendar);
  return range && { after: range.after.toString(), to: range.to.toString() };
}

/** The last time that has come of those at which dates come near: a day, once its time of day has come, or a minute. */
export function timeCome({ at, clock }: NearDate & { at: string }, now: Temporal.ZonedDateTime): string {
  if (clock !== null) return now.toPlainDateTime().toString({ smallestUnit: "minute" });
  const come = Temporal.PlainTime.compare(now.toPlainTime(), Temporal.PlainTime.from(at)) >= 0;
  return (come ? now.toPlainDate() : now.toPlainDate().subtract({ days: 1 })).toString();
}

/** The time so many days later, or earlier, of the same kind. */
export const daysOn = (time: string, days: number): string =>
  time.includes("T") ? shifted("hours", time, days * 24) : dayOf(time).add({ days }).toString();

/** The time just before one: what is looked at first comes after it. */
export const timeBefore = (time: string): string =>
  time.includes("T") ? shifted("minutes", time, -1) : dayOf(time).subtract({ days: 1 }).toString();

/**
 * A time that was kept, of the kind another is of, where a start is counted otherwise now: never later than it was, so that
 * nothing is passed over; what was taken already is taken once.
 */
export const timeOfKind = (kept: string, like: string): string => {
  if (kept.includes("T") === like.includes("T")) return kept;
  return kept.includes("T") ? timeBefore(kept.slice(0, 10)) : `${kept}T00:00`;
};

/** Whether what stands in a column is a date of the kind that is counted from. */
export const isCounted = ({ clock }: Pick<NearDate, "clock">, text: string): boolean =>
  clock === null ? isDate(dateFrom(text)) : /^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(text);
