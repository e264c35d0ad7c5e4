import { Temporal } from "temporal-polyfill";
import type { WorkingCalendar } from "../calendar";
import { cameNear, comesNear, daysOn, isCounted, timeBefore, timeCome, timeOfKind } from "./dateStart";

const calendar = { key: "c", name: "C", zone: "Europe/Dublin", week: {}, holidays: [] } as WorkingCalendar;
const by = (clock: "hours" | "minutes" | null, days: number) => ({ clock, days, working: false });

it("moments come near by the clock, days by days, and both are told as they are kept", () => {
  expect(comesNear(by("hours", -3), "2026-03-01T01:30", calendar)).toBe("2026-02-28T22:30");
  expect(comesNear(by("minutes", 45), "2026-12-31T23:30", calendar)).toBe("2027-01-01T00:15");
  expect(comesNear(by(null, -7), "2026-03-03", calendar)).toBe("2026-02-24");
  expect(cameNear(by("hours", -3), "2026-03-01T10:00", "2026-03-01T10:02", calendar)).toEqual({
    after: "2026-03-01T13:00",
    to: "2026-03-01T13:02",
  });
});

it("the last time that has come is the minute, or the day once its time of day has", () => {
  const now = Temporal.ZonedDateTime.from("2026-03-03T10:15:42[Europe/Dublin]");
  const at = (clock: "hours" | null, time: string) => timeCome({ ...by(clock, 0), at: time }, now);
  expect([at("hours", "02:00"), at(null, "10:15"), at(null, "10:16")]).toEqual([
    "2026-03-03T10:15",
    "2026-03-03",
    "2026-03-02",
  ]);
  expect([timeBefore("2026-03-01"), timeBefore("2026-03-01T00:00")]).toEqual([
    "2026-02-28",
    "2026-02-28T23:59",
  ]);
  expect([daysOn("2026-03-01", 30), daysOn("2026-03-01T10:00", 30)]).toEqual([
    "2026-03-31",
    "2026-03-31T10:00",
  ]);
});

it("where a start is counted otherwise it is never looked from later than it was", () => {
  for (const kept of ["2026-03-03", "2026-03-03T10:00"])
    for (const like of ["2026-05-01", "2026-05-01T08:00"]) {
      const from = timeOfKind(kept, like);
      expect(from.length).toBe(like.length);
      expect(from.slice(0, kept.length) <= kept).toBe(true);
    }
  expect(timeOfKind("2026-03-03T10:00", "2026-05-01")).toBe("2026-03-02");
});

it("only what is of its kind is counted from", () => {
  expect(
    ["2026-03-03", "2026-03-03T10:00", "2026-02-30", "soon", ""].map((t) => isCounted(by(null, 0), t)),
  ).toEqual([true, false, false, false, false]);
  expect(["2026-03-03", "2026-03-03T10:00", "soon"].map((t) => isCounted(by("hours", 0), t))).toEqual([
    false,
    true,
    false,
  ]);
});
