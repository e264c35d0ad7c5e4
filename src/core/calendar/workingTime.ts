import { Temporal } from "temporal-polyfill";
import { MAX_CLOSED, opensOn } from "./opensOn";
import { addWorkingDays } from "./workingDays";
import type { Length, Span, WorkingCalendar } from "./workingCalendar";

type Opening = readonly [from: number, to: number];

// Turning wall times into instants is the slow part, and the same few days are asked for again and again.
const openings = new WeakMap<WorkingCalendar, Map<string, readonly Opening[]>>();

/**
 * The open spans of one date as epoch milliseconds, in order and apart from each other; one that runs over midnight is
 * cut there. A span may be shortened by a clock change.
 */
export function openingsOn(calendar: WorkingCalendar, date: Temporal.PlainDate): readonly Opening[] {
  let days = openings.get(calendar);
  if (!days) openings.set(calendar, (days = new Map()));
  const key = date.toString();
  let spans = days.get(key);
  if (!spans) {
    const own = (opensOn(calendar, date) ? calendar.week[String(date.dayOfWeek)]! : []).map(
      ([from, to]): Span => [from, to <= from ? "24:00" : to],
    );
    const before = date.subtract({ days: 1 });
    const nights = opensOn(calendar, before)
      ? calendar.week[String(before.dayOfWeek)]!.flatMap(([from, to]): Span[] =>
          to <= from ? [["00:00", to]] : [],
        )
      : [];
    spans = merged(
      [...nights, ...own].map(([from, to]) => [
        instantOf(date, from, calendar.zone),
        instantOf(date, to, calendar.zone),
      ]),
    );
    days.set(key, spans);
  }
  return spans;
}

/** Spans in order, those that overlap or meet as one, empty ones left out. */
function merged(spans: readonly Opening[]): Opening[] {
  const out: [number, number][] = [];
  for (const [from, to] of [...spans].sort((a, b) => a[0] - b[0])) {
    const last = out.at(-1);
    if (to <= from) continue;
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

/** The instant of a wall time; one that the clocks leave out is the moment at which they do, one they show twice its first. */
function instantOf(date: Temporal.PlainDate, wall: string, zone: string): number {
  if (wall === "24:00") return date.add({ days: 1 }).toZonedDateTime(zone).epochMilliseconds;
  const at = date.toPlainDateTime(wall);
  const after = at.toZonedDateTime(zone, { disambiguation: "later" });
  if (after.toPlainDateTime().equals(at)) return at.toZonedDateTime(zone).epochMilliseconds;
  const before = at.toZonedDateTime(zone, { disambiguation: "earlier" });
  let [low, high] = [before.epochMilliseconds, after.epochMilliseconds];
  // Clocks change on a full minute; the offset is the old one up to it.
  const isOld = (ms: number) =>
    Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone).offsetNanoseconds ===
    before.offsetNanoseconds;
  while (high - low > 60_000) {
    const middle = low + Math.floor((high - low) / 120_000) * 60_000;
    if (isOld(middle)) low = middle;
    else high = middle;
  }
  return high;
}

export const dateAt = (ms: number, zone: string): Temporal.PlainDate =>
  Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone).toPlainDate();

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
  let day = dateAt(from, calendar.zone);
  const last = dateAt(to, calendar.zone);
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

function forward(calendar: WorkingCalendar, from: number, ms: number): number | null {
  let left = ms;
  let day = dateAt(from, calendar.zone);
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
  let day = dateAt(from, calendar.zone);
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
  const inHours = openingsOn(calendar, dateAt(from, calendar.zone)).some(([a, b]) => from >= a && from < b);
  const nearest = amount >= 0 ? forward : backward;
  const start = inHours ? from : nearest(calendar, from, 0);
  if (start === null) return null;
  const zoned = Temporal.Instant.fromEpochMilliseconds(start).toZonedDateTimeISO(calendar.zone);
  const day = addWorkingDays(calendar, zoned.toPlainDate(), whole);
  if (day === null) return null;
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
  // A part of a day is that part of the open time that begins on the day reached.
  const open = ownTime(calendar, day);
  return rest > 0
    ? forward(calendar, reached, Math.round(open * rest))
    : backward(calendar, reached, Math.round(-open * rest));
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
