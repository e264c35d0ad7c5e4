import { DUBLIN } from "../core/calendar/testCalendars";
import { workingCalendar } from "./calendar";

const told = (more: object) =>
  workingCalendar.safeParse({ ...DUBLIN, ...more }).error?.issues.map((i) => i.path.join(".")) ?? [];

it("takes calendars with spans in any order, over each other and over midnight", () => {
  expect(told({})).toEqual([]);
  expect(
    told({
      week: {
        "1": [
          ["22:00", "06:00"],
          ["09:00", "24:00"],
          ["08:00", "12:00"],
        ],
      },
    }),
  ).toEqual([]);
});

it("refuses zones there are not, and spans that cannot be", () => {
  expect(told({ zone: "Europe/Nowhere" })).toEqual(["zone"]);
  expect(told({ week: { "1": [["24:00", "06:00"]] } })).toEqual(["week.1.0.0"]);
  expect(told({ week: { "1": [["09:00", "09:00"]] } })).toEqual(["week.1.0"]);
  expect(told({ week: { "8": [] } })).toEqual(["week.8"]);
});
