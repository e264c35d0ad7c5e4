import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import {
  addLength,
  addWorkingDays,
  endOfWork,
  workingBetween,
  workingDaysBetween,
  type Span,
  type WorkingCalendar,
} from ".";

/**
 * Calendars of any shape (spans in any order, over each other, over midnight, many holidays) against models that are
 * slow and obviously right: a table of every minute, and going day by day.
 */
const MINUTE = 60_000;
const wall = (minute: number) =>
  minute === 1440
    ? "24:00"
    : `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}`;
/** Not within the hours that a clock change shows twice, of which no wall can tell the first from the second. */
const isClear = (minute: number) => minute < 60 || minute >= 120;
const span = fc
  .tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 1, max: 1440 }))
  .filter(([a, b]) => a !== b && isClear(a) && isClear(b))
  .map(([a, b]): Span => [wall(a), wall(b)]);
const calendarOf = (holiday: fc.Arbitrary<string>) =>
  fc
    .record({
      zone: fc.constantFrom("Europe/Dublin", "America/Halifax", "Pacific/Apia", "Asia/Kathmandu"),
      days: fc.array(fc.oneof({ weight: 2, arbitrary: fc.array(span, { maxLength: 3 }) }, fc.constant([])), {
        minLength: 7,
        maxLength: 7,
      }),
      holidays: fc.array(holiday, { maxLength: 8 }),
    })
    .map(({ zone, days, holidays }): WorkingCalendar => ({
      key: "any",
      name: "Any",
      zone,
      week: Object.fromEntries(days.map((d, i) => [String(i + 1), d])),
      holidays,
    }));
const date = (from: string, days: number) => Temporal.PlainDate.from(from).add({ days }).toString();

/** Whether work goes on at a minute of a day, by the clock on the wall alone. */
function openAt(c: WorkingCalendar, today: Temporal.PlainDate, minute: number): boolean {
  const now = wall(minute);
  const spansOf = (d: Temporal.PlainDate) =>
    c.holidays.includes(d.toString()) ? [] : (c.week[String(d.dayOfWeek)] ?? []);
  return (
    spansOf(today).some(([a, b]) => now >= a && (b <= a || b === "24:00" || now < b)) ||
    spansOf(today.subtract({ days: 1 })).some(([a, b]) => b <= a && now < b)
  );
}
/** How many minutes are open before each one. Clocks change at full hours, so each half hour is read off the wall once. */
function openBefore(c: WorkingCalendar, first: number, minutes: number): number[] {
  const before = [0];
  for (let i = 0; i < minutes; i += 30) {
    const z = Temporal.Instant.fromEpochMilliseconds(first + i * MINUTE).toZonedDateTimeISO(c.zone);
    const today = z.toPlainDate();
    const tomorrow = today.add({ days: 1 });
    for (let k = 0; k < 30; k++) {
      const m = z.hour * 60 + z.minute + k;
      const open = m < 1440 ? openAt(c, today, m) : openAt(c, tomorrow, m - 1440);
      before.push(before[i + k]! + (open ? 1 : 0));
    }
  }
  return before;
}

it("working time is the open minutes, there and back (20,000 cases)", () => {
  let cases = 0;
  fc.assert(
    fc.property(
      calendarOf(fc.integer({ min: 0, max: 9 }).map((n) => date("2026-03-25", n))),
      // Over the nights in which the clocks change: forward in Dublin, forward in Halifax, back in both.
      fc.constantFrom("2026-03-26T12:00Z", "2026-03-06T12:00Z", "2026-10-23T12:00Z", "2026-10-30T12:00Z"),
      fc.array(fc.tuple(fc.nat(4300), fc.nat(4300)), { minLength: 700, maxLength: 700 }),
      (c, start, pairs) => {
        const first = Temporal.Instant.from(start).epochMilliseconds;
        const before = openBefore(c, first, 3 * 1440);
        for (const [x, y] of pairs) {
          cases++;
          const [a, b] = [Math.min(x, y), Math.max(x, y)];
          const want = before[b]! - before[a]!;
          expect(workingBetween(c, first + a * MINUTE, first + b * MINUTE)).toBe(want * MINUTE);
          if (want === 0) continue;
          const there = addLength(c, first + a * MINUTE, { amount: want / 60, unit: "working hours" })!;
          // The first moment with that much open time behind it.
          const at = before.findIndex((n) => n - before[a]! >= want);
          expect((there - first) / MINUTE).toBe(at);
        }
      },
    ),
    { seed: 61, numRuns: 30, endOnFailure: true },
  );
  expect(cases).toBeGreaterThan(20_000);
});

it("a long time is as long as its pieces, over years and clock changes", () => {
  fc.assert(
    fc.property(
      calendarOf(fc.integer({ min: 0, max: 500 }).map((n) => date("2025-09-01", n))),
      fc.array(fc.integer({ min: 1, max: 6 * 1440 }), { minLength: 2, maxLength: 120 }),
      (c, pieces) => {
        const start = Temporal.Instant.from("2025-09-03T07:11Z").epochMilliseconds;
        let at = start;
        let sum = 0;
        for (const minutes of pieces) {
          const to = at + minutes * MINUTE;
          sum += workingBetween(c, at, to);
          at = to;
        }
        expect(workingBetween(c, start, at)).toBe(sum);
        expect(workingBetween(c, at, start)).toBe(sum === 0 ? -0 : -sum);
      },
    ),
    { seed: 63, numRuns: 60, endOnFailure: true },
  );
});

it("the end of work on a day is the end of the last open minute up to its end (60 calendars)", () => {
  fc.assert(
    fc.property(
      calendarOf(fc.integer({ min: 0, max: 9 }).map((n) => date("2026-03-25", n))),
      fc.constantFrom("2026-03-26", "2026-03-06", "2026-10-23", "2026-10-30"),
      (c, start) => {
        const day = Temporal.PlainDate.from(start);
        const ends = day.add({ days: 1 }).toZonedDateTime(c.zone).epochMilliseconds;
        const minutes = 3 * 1440;
        const before = openBefore(c, ends - minutes * MINUTE, minutes);
        // Where nothing is open in the days looked at there is nothing to compare.
        if (before.at(-1) === 0) return;
        expect((ends - endOfWork(c, day)!) / MINUTE).toBe(minutes - before.indexOf(before.at(-1)!));
      },
    ),
    { seed: 64, numRuns: 60, endOnFailure: true },
  );
});

it("working days agree with going day by day, whatever the week and the holidays, far too (600 cases)", () => {
  fc.assert(
    fc.property(
      calendarOf(fc.integer({ min: 0, max: 900 }).map((n) => date("2025-06-01", n))),
      fc.nat(700),
      fc.integer({ min: -400, max: 400 }),
      (c, offset, n) => {
        const from = Temporal.PlainDate.from("2025-09-01").add({ days: offset });
        const opens = (d: Temporal.PlainDate) =>
          (c.week[String(d.dayOfWeek)] ?? []).length > 0 && !c.holidays.includes(d.toString());
        let at = from;
        const possible = Object.values(c.week).some((d) => d.length > 0);
        if (possible)
          for (let left = Math.abs(n); left > 0;) {
            at = at.add({ days: Math.sign(n) });
            if (opens(at)) left--;
          }
        expect(addWorkingDays(c, from, n)?.toString() ?? null).toBe(
          possible || n === 0 ? at.toString() : null,
        );
        let count = 0;
        for (let d = from.add({ days: 1 }), i = 0; i < Math.abs(n); i++, d = d.add({ days: 1 }))
          if (opens(d)) count++;
        expect(workingDaysBetween(c, from, from.add({ days: Math.abs(n) }))).toBe(count);
      },
    ),
    { seed: 62, numRuns: 600, endOnFailure: true },
  );
});
