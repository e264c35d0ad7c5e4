import { Temporal } from "temporal-polyfill";
import type { Length, WorkingCalendar } from "./workingCalendar";

/** Far enough for any limit an office sets; beyond it a calendar counts as never open. */
const MAX_DAYS = 4000;

type Opening = readonly [from: number, to: number];

// Turning wall times into instants is the slow part, and the same few days are asked for again and again.
const openings = new WeakMap<WorkingCalendar, Map<string, readonly Opening[]>>();

/** The open spans of one date as epoch milliseconds, in order. A span may be shortened by a clock change. */
export function openingsOn(calendar: WorkingCalendar, date: Temporal.PlainDate): readonly Opening[] {
  let days = openings.get(calendar);
  if (!days) openings.set(calendar, (days = new Map()));
  const key = date.toString();
  let spans = days.get(key);
  if (!spans) {
    const closed = calendar.holidays.includes(key);
    spans = closed
      ? []
      : (calendar.week[String(date.dayOfWeek)] ?? [])
          .map(
            ([from, to]) =>
              [instantOf(date, from, calendar.zone), instantOf(date, to, calendar.zone)] as const,
          )
          .filter(([from, to]) => to > from);
    days.set(key, spans);
  }
  return spans;
}

const instantOf = (date: Temporal.PlainDate, wall: string, zone: string): number =>
  wall === "24:00"
    ? date.add({ days: 1 }).toZonedDateTime(zone).epochMilliseconds
    : date.toZonedDateTime({ timeZone: zone, plainTime: wall }).epochMilliseconds;

export const dateAt = (ms: number, zone: string): Temporal.PlainDate =>
  Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone).toPlainDate();

/** Working milliseconds between two instants; negative when `to` is before `from`. */
export function workingBetween(calendar: WorkingCalendar, from: number, to: number): number {
  if (to < from) return -workingBetween(calendar, to, from);
  let sum = 0;
  let day = dateAt(from, calendar.zone);
  for (let i = 0; i < MAX_DAYS; i++, day = day.add({ days: 1 })) {
    for (const [a, b] of openingsOn(calendar, day)) sum += Math.max(0, Math.min(b, to) - Math.max(a, from));
    if (day.toZonedDateTime(calendar.zone).epochMilliseconds > to) break;
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
      return addWorkingDays(calendar, from, amount);
  }
}

function forward(calendar: WorkingCalendar, from: number, ms: number): number | null {
  let left = ms;
  let day = dateAt(from, calendar.zone);
  for (let i = 0; i < MAX_DAYS; i++, day = day.add({ days: 1 }))
    for (const [a, b] of openingsOn(calendar, day)) {
      const start = Math.max(a, from);
      if (start >= b) continue;
      if (b - start >= left) return start + left;
      left -= b - start;
    }
  return null;
}

function backward(calendar: WorkingCalendar, from: number, ms: number): number | null {
  let left = ms;
  let day = dateAt(from, calendar.zone);
  for (let i = 0; i < MAX_DAYS; i++, day = day.subtract({ days: 1 }))
    for (const [a, b] of [...openingsOn(calendar, day)].reverse()) {
      const end = Math.min(b, from);
      if (end <= a) continue;
      if (end - a >= left) return end - left;
      left -= end - a;
    }
  return null;
}

function addWorkingDays(calendar: WorkingCalendar, from: number, amount: number): number | null {
  const whole = Math.trunc(amount);
  const inHours = openingsOn(calendar, dateAt(from, calendar.zone)).some(([a, b]) => from >= a && from < b);
  const nearest = amount >= 0 ? forward : backward;
  const start = inHours ? from : nearest(calendar, from, 0);
  if (start === null) return null;
  const zoned = Temporal.Instant.fromEpochMilliseconds(start).toZonedDateTimeISO(calendar.zone);
  let day = zoned.toPlainDate();
  const step = amount >= 0 ? 1 : -1;
  for (let left = Math.abs(whole), i = 0; left > 0; i++) {
    if (i > MAX_DAYS) return null;
    day = day.add({ days: step });
    if (openingsOn(calendar, day).length > 0) left--;
  }
  const wall = day.toZonedDateTime({
    timeZone: calendar.zone,
    plainTime: zoned.toPlainTime(),
  }).epochMilliseconds;
  const spans = openingsOn(calendar, day);
  const inside = spans.find(([a, b]) => wall >= a && wall <= b);
  const before = [...spans].reverse().find(([, b]) => b < wall);
  const reached = inside ? wall : (before?.[1] ?? spans[0]?.[0] ?? wall);
  const rest = amount - whole;
  if (rest === 0) return reached;
  // A part of a day is that part of the open time of the day reached.
  const open = spans.reduce((sum, [a, b]) => sum + b - a, 0);
  return rest > 0
    ? forward(calendar, reached, Math.round(open * rest))
    : backward(calendar, reached, Math.round(-open * rest));
}
