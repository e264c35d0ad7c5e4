import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { addLength, workingBetween, type WorkingCalendar } from ".";
import { at, DUBLIN, HALIFAX, NIGHTS } from "./testCalendars";

/** The reference: walks minute by minute by the wall clock of the calendar's zone. */
function openAt(c: WorkingCalendar, ms: number): boolean {
  const z = Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(c.zone);
  if (c.holidays.includes(z.toPlainDate().toString())) return false;
  const wall = z.toPlainTime().toString({ smallestUnit: "minute" });
  return (c.week[String(z.dayOfWeek)] ?? []).some(([a, b]) => wall >= a && (b === "24:00" || wall < b));
}
const seen = new Map<string, boolean>();
function slowBetween(c: WorkingCalendar, from: number, to: number): number {
  let n = 0;
  for (let t = from; t < to; t += 60_000) {
    const key = `${c.key}${t}`;
    let open = seen.get(key);
    if (open === undefined) seen.set(key, (open = openAt(c, t)));
    if (open) n++;
  }
  return n * 60_000;
}

describe("against a minute-by-minute reference", () => {
  const calendar = fc.constantFrom(DUBLIN, HALIFAX, NIGHTS);
  // Around both clock changes and a holiday of each place.
  const minute = fc.integer({ min: 0, max: 60 * 24 * 10 });
  const base = fc.constantFrom(
    at("2026-03-13T00:00"),
    at("2026-03-25T00:00"),
    at("2026-10-20T00:00"),
    at("2026-06-27T00:00"),
    at("2026-12-20T00:00"),
    at("2026-11-01T00:00"),
  );
  it("time between is the open minutes", () => {
    fc.assert(
      fc.property(calendar, base, minute, fc.integer({ min: 0, max: 60 * 24 * 6 }), (c, b, m, n) => {
        const from = b + m * 60_000;
        expect(workingBetween(c, from, from + n * 60_000)).toBe(slowBetween(c, from, from + n * 60_000));
      }),
      { seed: 1, numRuns: 40 },
    );
  });
  it("adding working hours reaches the first moment with that much open time behind it", () => {
    fc.assert(
      fc.property(calendar, base, minute, fc.integer({ min: 1, max: 60 * 30 }), (c, b, m, n) => {
        const from = b + m * 60_000;
        const to = addLength(c, from, { amount: n / 60, unit: "working hours" })!;
        expect(slowBetween(c, from, to)).toBe(n * 60_000);
        expect(openAt(c, to - 60_000)).toBe(true);
      }),
      { seed: 2, numRuns: 40 },
    );
  });
  it("forward and back again loses nothing", () => {
    fc.assert(
      fc.property(calendar, base, minute, fc.integer({ min: 1, max: 3000 }), (c, b, m, n) => {
        const to = addLength(c, b + m * 60_000, { amount: n / 60, unit: "working hours" })!;
        const from = addLength(c, to, { amount: -n / 60, unit: "working hours" })!;
        expect(workingBetween(c, from, to)).toBe(n * 60_000);
      }),
      { seed: 3, numRuns: 200 },
    );
  });
});
