import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { addLength, lengthInWords, workingBetween, type WorkingCalendar } from ".";

const week = (spans: [string, string][], days = ["1", "2", "3", "4", "5"]) =>
  Object.fromEntries(days.map((d) => [d, spans]));
const DUBLIN: WorkingCalendar = {
  key: "d",
  name: "d",
  zone: "Europe/Dublin",
  week: week([
    ["09:00", "13:00"],
    ["14:00", "17:30"],
  ]),
  holidays: ["2026-03-17", "2026-12-25"],
};
const HALIFAX: WorkingCalendar = {
  key: "h",
  name: "h",
  zone: "America/Halifax",
  week: week([["08:30", "16:30"]]),
  holidays: ["2026-07-01"],
};
/** Open over the night in which the clocks change. */
const NIGHTS: WorkingCalendar = {
  key: "n",
  name: "n",
  zone: "Europe/Dublin",
  week: week([["00:00", "06:00"]], ["1", "2", "3", "4", "5", "6", "7"]),
  holidays: [],
};

const at = (text: string, zone = "Europe/Dublin") =>
  Temporal.PlainDateTime.from(text).toZonedDateTime(zone).epochMilliseconds;
const back = (ms: number | null, zone = "Europe/Dublin") =>
  ms === null
    ? null
    : Temporal.Instant.fromEpochMilliseconds(ms)
        .toZonedDateTimeISO(zone)
        .toPlainDateTime()
        .toString({ smallestUnit: "minute" });

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

it("says lengths in words", () => {
  expect(lengthInWords({ amount: 1, unit: "working days" })).toBe("1 working day");
  expect(lengthInWords({ amount: 12, unit: "working hours" })).toBe("12 working hours");
});
