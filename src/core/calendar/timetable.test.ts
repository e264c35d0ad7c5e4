import { Temporal } from "temporal-polyfill";
import { daysOfRule } from "@/starts/timetable/daysOfRule";
import { timetableDays, type OnClosed, type Timetable, type WorkingCalendar } from ".";

const SPAN: [string, string][] = [["09:00", "17:00"]];
const calendar: WorkingCalendar = {
  key: "office",
  name: "Office",
  zone: "Europe/Dublin",
  week: Object.fromEntries(["1", "2", "3", "4", "5"].map((d) => [d, SPAN])),
  // St Patrick's day is a Tuesday, Easter Monday follows a Sunday.
  holidays: ["2026-03-17", "2026-04-06", "2026-05-01"],
};
const days = (t: Timetable, closed: OnClosed, after: string, to: string) =>
  timetableDays(
    t,
    closed,
    Temporal.PlainDate.from(after),
    Temporal.PlainDate.from(to),
    calendar,
    daysOfRule,
  ).map(String);

it("every working day leaves out weekends and holidays", () => {
  expect(days({ every: "working day" }, "as it is", "2026-03-12", "2026-03-19")).toEqual([
    "2026-03-13",
    "2026-03-16",
    "2026-03-18",
    "2026-03-19",
  ]);
});
it.each([
  ["as it is", ["2026-03-16", "2026-03-17"]],
  ["skip", ["2026-03-16"]],
  ["before", ["2026-03-16"]],
  ["after", ["2026-03-16", "2026-03-18"]],
] as const)("certain weekdays, where one is closed: %s", (closed, want) => {
  expect(days({ every: "week", days: [1, 2] }, closed, "2026-03-14", "2026-03-20")).toEqual(want);
});
it.each<[Timetable, OnClosed, string[]]>([
  [{ every: "month", nth: 1, of: 1 }, "as it is", ["2026-03-02", "2026-04-06", "2026-05-04"]],
  [{ every: "month", nth: 1, of: 1 }, "after", ["2026-03-02", "2026-04-07", "2026-05-04"]],
  [{ every: "month", nth: -1, of: "working day" }, "as it is", ["2026-03-31", "2026-04-30", "2026-05-29"]],
  [{ every: "month", nth: 1, of: "working day" }, "as it is", ["2026-03-02", "2026-04-01", "2026-05-04"]],
  [{ every: "month", nth: -1, of: "day" }, "before", ["2026-03-31", "2026-04-30", "2026-05-29"]],
  [{ every: "month", nth: 5, of: 1 }, "as it is", ["2026-03-30"]],
  [{ every: "month", nth: 31, of: "day" }, "skip", ["2026-03-31"]],
])("by the month: %j, %s", (t, closed, want) => {
  expect(days(t, closed, "2026-03-01", "2026-05-31")).toEqual(want);
});
it("two looks one after the other take what one look takes, also over days that were moved", () => {
  const all: Timetable[] = [
    { every: "working day" },
    { every: "week", days: [2, 7] },
    { every: "month", nth: -1, of: "day" },
    { every: "month", nth: 1, of: "day" },
  ];
  for (const t of all)
    for (const closed of ["as it is", "skip", "before", "after"] as const)
      for (let n = 1; n < 120; n += 23) {
        const middle = Temporal.PlainDate.from("2026-02-01").add({ days: n }).toString();
        const [a, b] = [days(t, closed, "2026-02-01", middle), days(t, closed, middle, "2026-06-30")];
        expect([...a, ...b]).toEqual(days(t, closed, "2026-02-01", "2026-06-30"));
      }
});
it("is empty where nothing is asked for, or no day is open", () => {
  expect(days({ every: "week", days: [] }, "as it is", "2026-01-01", "2026-12-31")).toEqual([]);
  const never = { ...calendar, week: {} };
  const from = Temporal.PlainDate.from("2026-01-01");
  expect(
    timetableDays({ every: "week", days: [1] }, "after", from, from.add({ days: 60 }), never, daysOfRule),
  ).toEqual([]);
});
