import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { MOST_RULE, ruleMistake, ruleWords, tidyRule } from "@/core/calendar";
import { daysOfRule } from "./daysOfRule";

const day = (d: string) => Temporal.PlainDate.from(d);
const days = (rule: string, from: string, first: string, last: string) =>
  daysOfRule({ rule, from }, day(first), day(last)).map(String);

it.each([
  // Examples of RFC 5545, §3.8.5.3, as far as they are of days; 28 years later, when weekdays are the same again.
  ["FREQ=DAILY;COUNT=10", "2025-09-02", "2025-09-01", "2025-12-31", 10, "2025-09-02", "2025-09-11"],
  ["FREQ=DAILY;UNTIL=20251224", "2025-09-02", "2025-12-20", "2026-01-31", 5, "2025-12-20", "2025-12-24"],
  ["FREQ=WEEKLY;INTERVAL=2;WKST=SU", "2025-09-02", "2025-09-01", "2025-10-15", 4, "2025-09-02", "2025-10-14"],
  [
    "FREQ=MONTHLY;BYDAY=-2MO;COUNT=6",
    "2025-09-22",
    "2025-09-01",
    "2026-12-31",
    6,
    "2025-09-22",
    "2026-02-16",
  ],
  [
    "FREQ=MONTHLY;BYMONTHDAY=1,-1;COUNT=10",
    "2025-09-30",
    "2025-09-01",
    "2027-12-31",
    10,
    "2025-09-30",
    "2026-02-01",
  ],
  [
    "FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2",
    "2025-09-29",
    "2025-09-01",
    "2025-12-31",
    4,
    "2025-09-29",
    "2025-12-30",
  ],
  ["FREQ=YEARLY;BYDAY=20MO", "2025-05-19", "2025-01-01", "2027-12-31", 3, "2025-05-19", "2027-05-17"],
  [
    "FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO",
    "2025-05-12",
    "2025-01-01",
    "2027-12-31",
    3,
    "2025-05-12",
    "2027-05-17",
  ],
  [
    "FREQ=YEARLY;INTERVAL=3;BYYEARDAY=1,100,200;COUNT=10",
    "2025-01-01",
    "2025-01-01",
    "2035-12-31",
    10,
    "2025-01-01",
    "2034-01-01",
  ],
  [
    "FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13",
    "2025-09-02",
    "2025-09-01",
    "2027-12-31",
    4,
    "2026-02-13",
    "2027-08-13",
  ],
  // Sixty years on it is still every second Tuesday, and soon found.
  [
    "FREQ=WEEKLY;INTERVAL=2;BYDAY=TU",
    "2026-01-06",
    "2090-01-01",
    "2090-01-31",
    2,
    "2090-01-10",
    "2090-01-24",
  ],
])("%s from %s", (rule, from, first, last, count, one, end) => {
  const found = days(rule, from, first, last);
  expect([found.length, found[0], found.at(-1)]).toEqual([count, one, end]);
});
it.each([
  ["FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30", "2026-01-01"],
  ["FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31", "2026-01-01"],
  ["FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31;COUNT=1", "2026-01-01"],
  // As a year comes to be while it is typed.
  ["FREQ=DAILY", "0002-01-01"],
  ["FREQ=DAILY", "2031-01-01"],
  ["nonsense", "2026-01-01"],
])("of %s no day ever comes, which ends with the window", (rule, from) => {
  expect(days(rule, from, "2026-01-01", "2029-06-30")).toEqual([]);
});

it("comes to what looking at each day by itself comes to", () => {
  const WEEK = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
  const some = <T>(of: T[]) =>
    fc.option(fc.uniqueArray(fc.constantFrom(...of), { minLength: 1, maxLength: 3 }), { nil: undefined });
  const rules = fc.record({
    freq: fc.constantFrom("DAILY", "WEEKLY", "MONTHLY", "YEARLY"),
    interval: fc.integer({ min: 1, max: 5 }),
    months: some([1, 2, 6, 12]),
    monthDays: some([1, 13, 29, 31, -1, -3]),
    weekdays: some([...WEEK, "1MO", "-1FR", "2WE"]),
    from: fc.integer({ min: 0, max: 500 }).map((n) => day("2025-01-01").add({ days: n })),
  });
  fc.assert(
    fc.property(rules, ({ freq, interval, months, monthDays, weekdays, from }) => {
      const plain = weekdays?.map((d) => d.slice(-2));
      const counted = freq === "MONTHLY" ? weekdays : plain && [...new Set(plain)];
      const onDays = freq === "WEEKLY" ? undefined : monthDays;
      const rule = [
        `FREQ=${freq};INTERVAL=${interval}`,
        ...(months ? [`BYMONTH=${months.join()}`] : []),
        ...(onDays ? [`BYMONTHDAY=${onDays.join()}`] : []),
        ...(counted ? [`BYDAY=${counted.join()}`] : []),
      ].join(";");
      expect(ruleMistake({ rule, from: from.toString() })).toBeNull();
      const monday = (d: Temporal.PlainDate) => d.subtract({ days: d.dayOfWeek - 1 });
      const inPeriod = (d: Temporal.PlainDate): number =>
        ({
          DAILY: () => from.until(d).days,
          WEEKLY: () => monday(from).until(monday(d)).days / 7,
          MONTHLY: () => (d.year - from.year) * 12 + d.month - from.month,
          YEARLY: () => d.year - from.year,
        })[freq as "DAILY"]();
      const isOf = (d: Temporal.PlainDate, w: string): boolean => {
        if (WEEK[d.dayOfWeek - 1] !== w.slice(-2)) return false;
        const n = Number(w.slice(0, -2));
        if (n === 0) return true;
        return n > 0 ? Math.ceil(d.day / 7) === n : Math.ceil((d.daysInMonth - d.day + 1) / 7) === -n;
      };
      const on = (d: Temporal.PlainDate): boolean => {
        if (Temporal.PlainDate.compare(d, from) < 0 || inPeriod(d) % interval !== 0) return false;
        if (months && !months.includes(d.month)) return false;
        if (onDays && !onDays.some((n) => (n > 0 ? d.day === n : d.day === d.daysInMonth + n + 1)))
          return false;
        if (counted) return counted.some((w) => isOf(d, w));
        if (onDays || freq === "DAILY") return true;
        // What a rule does not say it takes from the day it is counted from.
        if (freq === "WEEKLY") return d.dayOfWeek === from.dayOfWeek;
        return d.day === from.day && (freq === "MONTHLY" || months !== undefined || d.month === from.month);
      };
      const [first, last] = [day("2025-06-01"), day("2027-09-30")];
      const want: string[] = [];
      for (let d = first; Temporal.PlainDate.compare(d, last) <= 0; d = d.add({ days: 1 }))
        if (on(d)) want.push(d.toString());
      expect(days(rule, from.toString(), first.toString(), last.toString())).toEqual(want);
    }),
    { numRuns: 120, endOnFailure: true },
  );
});

it.each([
  ["", "Say by which rule"],
  ["BYDAY=MO", "A rule says how often"],
  ["FREQ=HOURLY", "FREQ is one of DAILY"],
  ["FREQ=DAILY;FREQ=DAILY", "FREQ stands in the rule twice"],
  ["FREQ=DAILY;BYHOUR=3", "A rule for days has no “BYHOUR”"],
  ["FREQ=DAILY;EXDATE:20260101", "A rule for days has no"],
  ["FREQ=DAILY;constructor=1", "A rule for days has no “constructor”"],
  ["FREQ=DAILY;INTERVAL=0", "INTERVAL is a number"],
  ["FREQ=DAILY;INTERVAL=1.5", "INTERVAL is a number"],
  ["FREQ=MONTHLY;BYMONTHDAY=0", "BYMONTHDAY is days"],
  ["FREQ=MONTHLY;BYMONTHDAY=32", "BYMONTHDAY is days"],
  ["FREQ=YEARLY;BYMONTH=13", "BYMONTH is months"],
  ["FREQ=YEARLY;BYMONTH=", "BYMONTH is months"],
  ["FREQ=WEEKLY;BYDAY=XX", "BYDAY is days such as MO"],
  ["FREQ=WEEKLY;BYDAY=1MO", "Only of a month or a year"],
  ["FREQ=MONTHLY;BYWEEKNO=3", "BYWEEKNO goes with FREQ=YEARLY"],
  ["FREQ=WEEKLY;BYMONTHDAY=3", "BYMONTHDAY does not go"],
  ["FREQ=DAILY;COUNT=3;UNTIL=20261231", "not by both"],
  ["FREQ=DAILY;UNTIL=20260231", "UNTIL is a day"],
  ["FREQ=DAILY;UNTIL=20261231T000000Z", "UNTIL is a day"],
  ["FREQ=MONTHLY;BYSETPOS=1", "BYSETPOS chooses among"],
  ["FREQ=DAILY;BYMONTHDAY=13;COUNT=500", "COUNT does not go with FREQ=DAILY"],
  [
    `FREQ=YEARLY;BYYEARDAY=${Array(100).fill("1").join()},1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1`,
    `at most ${MOST_RULE}`,
  ],
])("%s is refused", (rule, why) => {
  expect(ruleMistake({ rule, from: "2026-01-01" })).toContain(why);
  expect(days(rule, "2026-01-01", "2026-01-01", "2026-12-31")).toEqual([]);
});
it("is taken as it is often pasted", () => {
  expect(tidyRule(" RRULE:freq=weekly; byday=mo ;")).toBe("FREQ=WEEKLY;BYDAY=MO");
});

it.each([
  ["FREQ=WEEKLY;INTERVAL=2;BYDAY=TU", "every 2 weeks on Tuesday, counted from 28 November 2026"],
  ["FREQ=MONTHLY;INTERVAL=3;BYDAY=1MO", "every 3 months on the first Monday, counted from 28 November 2026"],
  ["FREQ=MONTHLY;BYMONTHDAY=1,15", "every month on the 1. and the 15."],
  [
    "FREQ=YEARLY;BYMONTH=3,6,9,12;BYMONTHDAY=-1",
    "every year in March, June, September and December on the last day",
  ],
  ["FREQ=YEARLY;BYMONTH=9;BYDAY=MO;BYSETPOS=1", "every year in September on Monday, of these the first"],
  [
    "FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13;UNTIL=20271231",
    "every month on Friday, where it is the 13., until 31 December 2027",
  ],
  ["FREQ=DAILY;COUNT=10", "every day, 10 times, counted from 28 November 2026"],
  ["FREQ=YEARLY;BYWEEKNO=20", "by the rule FREQ=YEARLY;BYWEEKNO=20, counted from 28 November 2026"],
  ["nonsense", "by a rule"],
])("%s is said: %s", (rule, said) => {
  expect(ruleWords({ rule, from: "2026-11-28" })).toBe(said);
});

it("whatever rule is right has its days told, however long it is counted from", () => {
  const some = (texts: string[]) => fc.option(fc.subarray(texts, { minLength: 1 }), { nil: null, freq: 1 });
  const rarely = (texts: string[]) => fc.oneof({ weight: 5, arbitrary: fc.constant(null) }, some(texts));
  const rules = fc.record({
    FREQ: fc.constantFrom(["DAILY"], ["WEEKLY"], ["MONTHLY"], ["YEARLY"]),
    INTERVAL: some(["1"]),
    COUNT: some(["500"]),
    BYMONTH: some(["2", "9"]),
    BYMONTHDAY: some(["29", "31", "-1"]),
    BYYEARDAY: rarely(["1", "366"]),
    BYWEEKNO: rarely(["1", "53"]),
    BYDAY: some(["MO", "5FR", "-1SU"]),
    BYSETPOS: some(["1", "-1", "366"]),
  });
  const from = fc.constantFrom("2000-01-01", "2000-02-29", "2026-11-28");
  fc.assert(
    fc.property(rules, from, (parts, start) => {
      const rule = Object.entries(parts)
        .flatMap(([k, v]) => (v ? [`${k}=${v.join()}`] : []))
        .join(";");
      const found = days(rule, start, "2026-10-01", "2027-12-31");
      if (ruleMistake({ rule, from: start }) !== null) expect(found).toEqual([]);
      for (const d of found) expect(d >= start && d >= "2026-10-01" && d <= "2027-12-31").toBe(true);
    }),
    { numRuns: 150, endOnFailure: true },
  );
});
