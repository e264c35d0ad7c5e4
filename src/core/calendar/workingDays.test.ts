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
const NEVER: WorkingCalendar = { ...OFFICE, week: {} };
const day = (s: string) => Temporal.PlainDate.from(s);

describe("working days", () => {
  it.each([
    ["2026-03-13", 1, "2026-03-16"],
    ["2026-03-16", 1, "2026-03-18"],
    ["2026-03-18", -1, "2026-03-16"],
    ["2026-03-14", 1, "2026-03-16"],
    ["2026-03-14", -1, "2026-03-13"],
    ["2026-03-14", 0, "2026-03-14"],
    ["2026-12-24", 2, "2026-12-29"],
  ])("%s and %i is %s", (from, n, to) => expect(addWorkingDays(OFFICE, day(from), n)!.toString()).toBe(to));

  it("a calendar that is never open has none", () => {
    expect(addWorkingDays(NEVER, day("2026-03-16"), 1)).toBeNull();
    expect(addWorkingDays(NEVER, day("2026-03-16"), 0)!.toString()).toBe("2026-03-16");
    expect(workingDaysBetween(NEVER, day("2026-01-01"), day("2026-12-31"))).toBe(0);
    expect(workingDaysBetween(OFFICE, day("1900-01-01"), day("2026-12-31"))).toBeNull();
  });
});
