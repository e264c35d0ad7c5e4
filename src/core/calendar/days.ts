import { Temporal } from "temporal-polyfill";
import { openingsOn, type Opening } from "./openings";
import { addWorkingDays } from "./workingDays";
import type { WorkingCalendar } from "./workingCalendar";

/** A date of a calendar as epoch milliseconds. */
export interface Day {
  date: Temporal.PlainDate;
  starts: number;
  ends: number;
  open: readonly Opening[];
  /** What lies so many working days after it, as far as it was asked for. */
  after: Map<number, Day | null>;
}
export const DAY_MS = 86_400_000;

/** Days of a calendar that are kept; limits of an office fall on the same few. */
const MOST = 4_000;
interface Known {
  byDate: Map<string, Day>;
  /** By the day of universal time; two or three of a zone's days touch one. */
  byUtc: Map<number, Day[]>;
}
const known = new WeakMap<WorkingCalendar, Known>();
function knownOf(calendar: WorkingCalendar): Known {
  let k = known.get(calendar);
  if (!k || k.byDate.size > MOST) known.set(calendar, (k = { byDate: new Map(), byUtc: new Map() }));
  return k;
}

export function dayOn(calendar: WorkingCalendar, date: Temporal.PlainDate): Day {
  const { byDate } = knownOf(calendar);
  const key = date.toString();
  let day = byDate.get(key);
  if (!day)
    byDate.set(
      key,
      (day = {
        date,
        starts: date.toZonedDateTime(calendar.zone).epochMilliseconds,
        ends: date.add({ days: 1 }).toZonedDateTime(calendar.zone).epochMilliseconds,
        open: openingsOn(calendar, date),
        after: new Map(),
      }),
    );
  return day;
}

/** The date of a moment in the calendar's zone. Asking Temporal each time is most of what a limit costs. */
export function dayAt(calendar: WorkingCalendar, ms: number): Day {
  const { byUtc } = knownOf(calendar);
  const utc = Math.floor(ms / DAY_MS);
  const near = byUtc.get(utc) ?? [];
  const found = near.find((d) => d.starts <= ms && ms < d.ends);
  if (found) return found;
  const at = Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(calendar.zone);
  const day = dayOn(calendar, at.toPlainDate());
  byUtc.set(utc, [...near, day]);
  return day;
}

/** @returns null when the calendar has no such day */
export function daysAfter(calendar: WorkingCalendar, day: Day, days: number): Day | null {
  const kept = day.after.get(days);
  if (kept !== undefined) return kept;
  const date = addWorkingDays(calendar, day.date, days);
  const found = date && dayOn(calendar, date);
  if (day.after.size < MOST) day.after.set(days, found);
  return found;
}
