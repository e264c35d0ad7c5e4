import { Temporal } from "temporal-polyfill";
import { DAY_MS, dayAt, dayOn, daysAfter, type Day } from "./days";
import { instantOf, merged, openingsOn, type Opening } from "./openings";
import { MAX_CLOSED, opensOn } from "./opensOn";
import type { Length, WorkingCalendar } from "./workingCalendar";

const { compare } = Temporal.PlainDate;

/** Whether the clocks do not change within some days, and no holiday falls into them, nor on the eve of the first. */
function isOrdinary(calendar: WorkingCalendar, from: Temporal.PlainDate, to: Temporal.PlainDate): boolean {
  const eve = from.subtract({ days: 1 }).toString();
  const end = to.toString();
  if (calendar.holidays.some((h) => h >= eve && h < end)) return false;
  const offset = (d: Temporal.PlainDate) => d.toZonedDateTime(calendar.zone).offsetNanoseconds;
  return offset(from) === offset(to);
}

/** Working milliseconds between two instants; negative when `to` is before `from`. */
export function workingBetween(calendar: WorkingCalendar, from: number, to: number): number {
  if (to < from) return -workingBetween(calendar, to, from);
  let sum = 0;
  let day = dayAt(calendar, from).date;
  const last = dayAt(calendar, to).date;
  const first = day;
  let usual: number | null = null;
  while (compare(day, last) <= 0) {
    const next = day.add({ days: 7 });
    // Ordinary weeks are all as long as each other: one of them is counted, the others added.
    if (compare(day, first) > 0 && compare(next, last) < 0 && isOrdinary(calendar, day, next)) {
      if (usual === null) {
        usual = 0;
        for (let d = day; compare(d, next) < 0; d = d.add({ days: 1 }))
          for (const [a, b] of openingsOn(calendar, d)) usual += b - a;
      }
      sum += usual;
      day = next;
      continue;
    }
    for (const [a, b] of openingsOn(calendar, day)) sum += Math.max(0, Math.min(b, to) - Math.max(a, from));
    day = day.add({ days: 1 });
  }
  return sum;
}

/**
 * The instant a length after `from` (before it, when the amount is negative).
 * Working hours are elapsed open time. Working days keep the wall time: two working days after Tuesday
 * 14:00 is Thursday 14:00; a start outside hours counts from the next opening, and a wall time that is
 * not open on the day reached moves to that day's nearest opening before it or, failing that, its first.
 * @returns epoch milliseconds, or null when the calendar is never open
 */
export function addLength(calendar: WorkingCalendar, from: number, length: Length): number | null {
  const { amount, unit } = length;
  switch (unit) {
    case "minutes":
      return from + amount * 60_000;
    case "hours":
      return from + amount * 3_600_000;
    case "days": {
      const start = Temporal.Instant.fromEpochMilliseconds(from).toZonedDateTimeISO(calendar.zone);
      const whole = Math.trunc(amount);
      return start.add({ days: whole }).epochMilliseconds + Math.round((amount - whole) * 86_400_000);
    }
    case "working hours":
      return amount >= 0
        ? forward(calendar, from, Math.round(amount * 3_600_000))
        : backward(calendar, from, Math.round(-amount * 3_600_000));
    case "working days":
      return afterWorkingDays(calendar, from, amount);
  }
}

/**
 * The end of work on a day, or of the last day before on which there is any.
 * @returns epoch milliseconds, or null when the calendar is never open
 */
export function endOfWork(calendar: WorkingCalendar, date: Temporal.PlainDate): number | null {
  return backward(calendar, dayOn(calendar, date).ends, 0);
}

function forward(calendar: WorkingCalendar, from: number, ms: number): number | null {
  let left = ms;
  let day = dayAt(calendar, from).date;
  for (let closed = 0; closed <= MAX_CLOSED; closed++, day = day.add({ days: 1 }))
    for (const [a, b] of openingsOn(calendar, day)) {
      const start = Math.max(a, from);
      if (start >= b) continue;
      if (b - start >= left) return start + left;
      left -= b - start;
      closed = 0;
    }
  return null;
}

function backward(calendar: WorkingCalendar, from: number, ms: number): number | null {
  let left = ms;
  let day = dayAt(calendar, from).date;
  for (let closed = 0; closed <= MAX_CLOSED; closed++, day = day.subtract({ days: 1 }))
    for (const [a, b] of [...openingsOn(calendar, day)].reverse()) {
      const end = Math.min(b, from);
      if (end <= a) continue;
      if (end - a >= left) return end - left;
      left -= end - a;
      closed = 0;
    }
  return null;
}

function afterWorkingDays(calendar: WorkingCalendar, from: number, amount: number): number | null {
  const whole = Math.trunc(amount);
  const inHours = dayAt(calendar, from).open.some(([a, b]) => from >= a && from < b);
  const nearest = amount >= 0 ? forward : backward;
  const start = inHours ? from : nearest(calendar, from, 0);
  if (start === null) return null;
  const first = dayAt(calendar, start);
  const day = daysAfter(calendar, first, whole);
  if (day === null) return null;
  const wall = sameWallTime(calendar, start, first, day);
  const spans = day.open;
  const inside = spans.find(([a, b]) => wall >= a && wall <= b);
  const before = [...spans].reverse().find(([, b]) => b < wall);
  const reached = inside ? wall : (before?.[1] ?? spans[0]?.[0] ?? wall);
  const rest = amount - whole;
  if (rest === 0) return reached;
  // A part of a day is that part of the open time that begins on the day reached.
  const open = ownTime(calendar, day.date);
  return rest > 0
    ? forward(calendar, reached, Math.round(open * rest))
    : backward(calendar, reached, Math.round(-open * rest));
}

/** The wall time of a moment on its day, on another day. On days as long as each other it is as far into them. */
function sameWallTime(calendar: WorkingCalendar, ms: number, of: Day, on: Day): number {
  if (of.ends - of.starts === DAY_MS && on.ends - on.starts === DAY_MS) return on.starts + (ms - of.starts);
  const plainTime = Temporal.Instant.fromEpochMilliseconds(ms)
    .toZonedDateTimeISO(calendar.zone)
    .toPlainTime();
  return on.date.toZonedDateTime({ timeZone: calendar.zone, plainTime }).epochMilliseconds;
}

/** Working milliseconds of the shifts that begin on a date. */
function ownTime(calendar: WorkingCalendar, date: Temporal.PlainDate): number {
  const tomorrow = date.add({ days: 1 });
  const spans = (opensOn(calendar, date) ? calendar.week[String(date.dayOfWeek)]! : []).map(
    ([from, to]): Opening => [
      instantOf(date, from, calendar.zone),
      instantOf(to <= from ? tomorrow : date, to, calendar.zone),
    ],
  );
  return merged(spans).reduce((sum, [a, b]) => sum + b - a, 0);
}
