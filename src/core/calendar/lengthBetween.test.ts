import { addLength, lengthBetween, type LengthUnit } from ".";
import { at, DUBLIN } from "./testCalendars";

const TUESDAY = at("2026-03-03T10:00");
const told = (to: string, unit: LengthUnit) => lengthBetween(DUBLIN, TUESDAY, at(to), unit).amount;

it.each<[string, LengthUnit, number]>([
  ["2026-03-05T11:10", "working days", 2],
  ["2026-03-08T11:00", "working days", 3],
  ["2026-03-02T09:00", "working days", -1],
  ["2026-03-03T12:40", "working hours", 2.5],
  ["2026-03-03T10:10", "working hours", 0],
  ["2026-03-03T10:13", "minutes", 15],
  ["2026-03-04T10:10", "hours", 24],
  ["2026-03-05T21:00", "days", 2],
  ["2026-03-01T21:00", "days", -2],
])("until %s it is in %s: %d", (to, unit, amount) => expect(told(to, unit)).toBe(amount));

it("is never the minus zero that would not be told from zero", () => {
  for (const unit of ["minutes", "hours", "days", "working hours", "working days"] as const)
    expect(Object.is(lengthBetween(DUBLIN, TUESDAY, TUESDAY - 60_000, unit).amount, 0)).toBe(true);
});

it("what is added comes back", () => {
  for (const unit of ["minutes", "hours", "days", "working hours", "working days"] as const)
    for (const amount of [-15, -5, -1, 1, 5, 40]) {
      const told = unit === "minutes" ? amount * 5 : amount;
      const to = addLength(DUBLIN, TUESDAY, { amount: told, unit })!;
      expect(lengthBetween(DUBLIN, TUESDAY, to, unit)).toEqual({ amount: told, unit });
    }
});
