import { Temporal } from "temporal-polyfill";
import { addLength, lengthInWords, workingBetween } from ".";
import { at, DUBLIN, NIGHTS } from "./testCalendars";

const back = (ms: number | null, zone = "Europe/Dublin") =>
  ms === null
    ? null
    : Temporal.Instant.fromEpochMilliseconds(ms)
        .toZonedDateTimeISO(zone)
        .toPlainDateTime()
        .toString({ smallestUnit: "minute" });

describe("working days keep the wall time", () => {
  it.each([
    ["2026-03-03T14:00", 2, "2026-03-05T14:00"],
    ["2026-03-06T16:00", 1, "2026-03-09T16:00"],
    ["2026-03-16T10:00", 1, "2026-03-18T10:00"], // over Saint Patrick's day
    ["2026-03-07T11:00", 1, "2026-03-10T09:00"], // asked on a Saturday: counts from Monday's opening
    ["2026-03-03T20:00", 1, "2026-03-05T09:00"], // after closing: counts from the next opening
    ["2026-03-27T10:00", 1, "2026-03-30T10:00"], // clocks go forward on the Sunday between
    ["2026-03-03T14:00", 0.5, "2026-03-04T09:15"],
    ["2026-03-05T14:00", -2, "2026-03-03T14:00"],
  ])("%s plus %p is %s", (from, days, want) =>
    expect(back(addLength(DUBLIN, at(from), { amount: days, unit: "working days" }))).toBe(want),
  );
});

it.each([
  ["2026-03-03T12:00", 2, "2026-03-03T15:00"],
  ["2026-03-03T17:00", 1, "2026-03-04T09:30"],
  ["2026-03-06T17:00", 12, "2026-03-10T13:00"],
  ["2026-03-09T09:30", -1, "2026-03-06T17:00"],
])("working hours: %s plus %p is %s", (from, hours, want) =>
  expect(back(addLength(DUBLIN, at(from), { amount: hours, unit: "working hours" }))).toBe(want),
);

it("clock units ignore opening hours, and a day is a day also when the clocks change", () => {
  expect(back(addLength(DUBLIN, at("2026-03-28T10:00"), { amount: 1, unit: "days" }))).toBe(
    "2026-03-29T10:00",
  );
  expect(back(addLength(DUBLIN, at("2026-03-28T10:00"), { amount: 24, unit: "hours" }))).toBe(
    "2026-03-29T11:00",
  );
  expect(back(addLength(DUBLIN, at("2026-03-28T10:00"), { amount: 90, unit: "minutes" }))).toBe(
    "2026-03-28T11:30",
  );
});

it("a night open while the clocks change is an hour shorter, or longer", () => {
  expect(workingBetween(NIGHTS, at("2026-03-29T00:00"), at("2026-03-29T12:00"))).toBe(5 * 3_600_000);
  expect(workingBetween(NIGHTS, at("2026-10-25T00:00"), at("2026-10-25T12:00"))).toBe(7 * 3_600_000);
});

it("a calendar that is never open says so instead of searching for ever", () => {
  expect(
    addLength({ ...DUBLIN, week: {} }, at("2026-03-03T10:00"), { amount: 1, unit: "working hours" }),
  ).toBeNull();
});

it("says lengths in words", () => {
  expect(lengthInWords({ amount: 1, unit: "working days" })).toBe("1 working day");
  expect(lengthInWords({ amount: 12, unit: "working hours" })).toBe("12 working hours");
});
