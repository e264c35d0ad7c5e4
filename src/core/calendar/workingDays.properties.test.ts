import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { addWorkingDays, workingDaysBetween, type WorkingCalendar } from ".";

const hours: [string, string][] = [["09:00", "17:00"]];
const OFFICE: WorkingCalendar = {
  key: "office",
  name: "Office",
  zone: "Europe/Dublin",
  week: { "1": hours, "2": hours, "3": hours, "4": hours, "5": hours },
  holidays: ["2026-03-17", "2026-12-25"],
};
const day = (s: string) => Temporal.PlainDate.from(s);

describe("working days", () => {
  it("are counted as they were added, in both directions", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2000 }), fc.integer({ min: -400, max: 400 }), (start, n) => {
        const from = day("2024-01-01").add({ days: start });
        const to = addWorkingDays(OFFICE, from, n)!;
        // From a closed day backwards, the day reached itself is not counted on the way back; forwards it is.
        const between = workingDaysBetween(OFFICE, from, to)!;
        const open = (d: Temporal.PlainDate) => d.dayOfWeek < 6 && !OFFICE.holidays.includes(d.toString());
        if (n >= 0) expect(between).toBe(n);
        else expect(between).toBe(open(from) ? n : n + 1);
      }),
      { seed: 51, numRuns: 500 },
    );
  });

  it("agree with going day by day", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1500 }), fc.integer({ min: 0, max: 300 }), (start, length) => {
        const from = day("2025-01-01").add({ days: start });
        const to = from.add({ days: length });
        let n = 0;
        for (let i = 1; i <= length; i++) {
          const d = from.add({ days: i });
          if (d.dayOfWeek < 6 && !OFFICE.holidays.includes(d.toString())) n++;
        }
        expect(workingDaysBetween(OFFICE, from, to)).toBe(n);
        expect(workingDaysBetween(OFFICE, to, from)).toBe(n === 0 ? 0 : -n);
      }),
      { seed: 52, numRuns: 300 },
    );
  });
});
