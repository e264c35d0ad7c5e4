import { Temporal } from "temporal-polyfill";
import { addWorkingDays } from "@/core/calendar";
import { countriesKnown, holidaysOf, isPlaceOfHolidays, regionsKnown, withPublicHolidays } from ".";

const OFFICE = {
  key: "office",
  name: "Office hours",
  zone: "Europe/Dublin",
  week: Object.fromEntries(["1", "2", "3", "4", "5"].map((d) => [d, [["09:00", "17:00"]] as const])),
  holidays: ["2027-12-31"],
};
const NOW = Date.UTC(2026, 11, 1);

it("knows those of a country and of its regions, day by day", async () => {
  const ireland = await holidaysOf({ country: "IE" }, { from: 2027, to: 2027 });
  expect(ireland.map((h) => h.date)).toEqual([
    "2027-01-01",
    "2027-02-01",
    "2027-03-17",
    "2027-03-26",
    "2027-03-29",
    "2027-05-03",
    "2027-06-07",
    "2027-08-02",
    "2027-10-25",
    "2027-12-25",
    "2027-12-26",
    "2027-12-27",
  ]);
  // Mother's Day closes nothing, Good Friday only banks.
  expect(ireland.filter((h) => h.often).map((h) => h.name)).toEqual([
    "Good Friday",
    expect.stringContaining("substitute"),
  ]);
  const of = async (region: string) =>
    (await holidaysOf({ country: "DE", region }, { from: 2027, to: 2027 })).map((h) => h.date);
  expect(await of("BY")).toContain("2027-01-06");
  expect(await of("NW")).not.toContain("2027-01-06");
});

it("one that lasts several days closes each of them, also over a change of clocks", async () => {
  const days = (await holidaysOf({ country: "TR" }, { from: 2027, to: 2027 })).filter((h) =>
    /Ramazan|Ramadan/i.test(h.name),
  );
  expect(days.length).toBeGreaterThanOrEqual(3);
  const first = Date.parse(days[0]!.date);
  expect(days.map((h) => (Date.parse(h.date) - first) / 86_400_000)).toEqual(days.map((_, i) => i));
});

it("a calendar is closed on them as well, but for those on which work goes on, and counts by that", async () => {
  const closed = await withPublicHolidays(
    { ...OFFICE, publicHolidays: { country: "IE", works: ["Good Friday"] } },
    NOW,
  );
  expect(closed.holidays).toContain("2027-12-31");
  expect(closed.holidays).toContain("2027-03-29");
  expect(closed.holidays).not.toContain("2027-03-26");
  expect([...closed.holidays]).toEqual([...new Set(closed.holidays)].sort());
  // Years to come are known, and last year's for what is counted back.
  expect([closed.holidays[0]!.slice(0, 4), closed.holidays.at(-1)!.slice(0, 4)]).toEqual(["2025", "2034"]);
  const thursday = Temporal.PlainDate.from("2027-03-25");
  const day = (c: typeof closed) => addWorkingDays(c, thursday, 2)?.toString();
  expect([day(OFFICE), day(closed)]).toEqual(["2027-03-29", "2027-03-30"]);
  expect(await withPublicHolidays(OFFICE, NOW)).toBe(OFFICE);
});

it("tells places that are known from others, and never fails on one that is not", async () => {
  const is = (country: string, region?: string) =>
    isPlaceOfHolidays({ country, works: [], ...(region ? { region } : {}) });
  expect(await Promise.all([is("IE"), is("DE", "BY"), is("CA", "NS")])).toEqual([true, true, true]);
  expect(await Promise.all([is("XX"), is("IE", "BY"), is("toString"), is("DE", "constructor")])).toEqual([
    false,
    false,
    false,
    false,
  ]);
  expect(await holidaysOf({ country: "XX" }, { from: 2027, to: 2027 })).toEqual([]);
  expect((await countriesKnown()).length).toBeGreaterThan(100);
  expect((await regionsKnown("DE")).map((r) => r.name)).toContain("Bayern");
  expect(await regionsKnown("XX")).toEqual([]);
});
