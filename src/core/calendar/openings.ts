import { Temporal } from "temporal-polyfill";
import { opensOn } from "./opensOn";
import type { Span, WorkingCalendar } from "./workingCalendar";

export type Opening = readonly [from: number, to: number];

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
export function merged(spans: readonly Opening[]): Opening[] {
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
export function instantOf(date: Temporal.PlainDate, wall: string, zone: string): number {
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
