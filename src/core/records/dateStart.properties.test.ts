import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import type { WorkingCalendar } from "../calendar";
import { datesNear, nearDay } from "./dateStart";

const FIRST = Temporal.PlainDate.from("2026-01-01");
const SPAN: [string, string][] = [["09:00", "17:00"]];

it("takes each date on the one day it comes near, however long nobody looked", () => {
  fc.assert(
    fc.property(
      fc.record({
        days: fc.integer({ min: -12, max: 12 }),
        working: fc.boolean(),
        open: fc.subarray(["1", "2", "3", "4", "5", "6", "7"], { minLength: 1 }),
        holidays: fc.uniqueArray(fc.integer({ min: 0, max: 120 }), { maxLength: 8 }),
        looks: fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 12 }),
      }),
      ({ days, working, open, holidays, looks }) => {
        const calendar: WorkingCalendar = {
          key: "c",
          name: "C",
          zone: "Europe/Dublin",
          week: Object.fromEntries(open.map((d) => [d, SPAN])),
          holidays: holidays.map((n) => FIRST.add({ days: n }).toString()),
        };
        const near = { days, working };
        const taken = new Map<string, number>();
        let looked = FIRST.add({ days: 30 });
        const began = looked;
        for (const n of looks) {
          const day = looked.add({ days: n });
          const range = datesNear(near, looked, day, calendar)!;
          for (
            let d = range.after.add({ days: 1 });
            Temporal.PlainDate.compare(d, range.to) <= 0;
            d = d.add({ days: 1 })
          )
            taken.set(d.toString(), (taken.get(d.toString()) ?? 0) + 1);
          looked = day;
        }
        for (let n = -60; n < 260; n++) {
          const d = FIRST.add({ days: n });
          const on = nearDay(near, d, calendar)!;
          const due =
            Temporal.PlainDate.compare(on, began) > 0 && Temporal.PlainDate.compare(on, looked) <= 0;
          expect([d.toString(), taken.get(d.toString()) ?? 0]).toEqual([d.toString(), due ? 1 : 0]);
        }
      },
    ),
    { numRuns: 60, endOnFailure: true },
  );
});
