import type { Temporal } from "temporal-polyfill";

/**
 * A rule for days as RFC 5545 writes one (§3.3.10): FREQ=WEEKLY;INTERVAL=2;BYDAY=TU. It is counted from a day, which need
 * not be one of its own.
 */
export interface DayRule {
  rule: string;
  /** ISO date. */
  from: string;
}

/** The days of a rule from one day to another, both counted in. Handed in: what reads such rules is no part of core. */
export type DaysOfRule = (
  r: DayRule,
  first: Temporal.PlainDate,
  last: Temporal.PlainDate,
) => readonly Temporal.PlainDate[];

/** The longest rule. */
export const MOST_RULE = 300;
/** Times a rule may count. */
const MOST_COUNT = 500;
/** The earliest day to count from: what ends by COUNT is gone through from there each time. */
const EARLIEST = "2000-01-01";

const FREQUENCIES = ["DAILY", "WEEKLY", "MONTHLY", "YEARLY"];
const DAY = /^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/;
const between = (least: number, most: number) => (v: string) =>
  /^\d{1,5}$/.test(v) && Number(v) >= least && Number(v) <= most;
/** From either end; there is none before the first. */
const eitherEnd = (most: number) => (v: string) =>
  /^[+-]?\d{1,3}$/.test(v) && Number(v) !== 0 && Math.abs(Number(v)) <= most;

/** What each part may say, and how that is put in words. */
const PARTS: Readonly<Record<string, { one: (v: string) => boolean; list: boolean; says: string }>> = {
  FREQ: { one: (v) => FREQUENCIES.includes(v), list: false, says: `one of ${FREQUENCIES.join(", ")}` },
  INTERVAL: { one: between(1, 366), list: false, says: "a number from 1 to 366" },
  COUNT: { one: between(1, MOST_COUNT), list: false, says: `a number from 1 to ${MOST_COUNT}` },
  UNTIL: { one: isDay, list: false, says: "a day, for example 20261231" },
  BYMONTH: { one: between(1, 12), list: true, says: "months from 1 to 12" },
  BYMONTHDAY: { one: eitherEnd(31), list: true, says: "days from 1 to 31, or -1 for the last" },
  BYYEARDAY: { one: eitherEnd(366), list: true, says: "days from 1 to 366, or -1 for the last" },
  BYWEEKNO: { one: eitherEnd(53), list: true, says: "weeks from 1 to 53, or -1 for the last" },
  BYSETPOS: { one: eitherEnd(366), list: true, says: "places from 1 to 366, or -1 for the last" },
  BYDAY: { one: (v) => DAY.test(v), list: true, says: "days such as MO, or 1MO for the first Monday" },
  WKST: { one: (v) => /^(MO|TU|WE|TH|FR|SA|SU)$/.test(v), list: false, says: "a day such as MO" },
};

function isDay(v: string): boolean {
  const m = /^(\d{4})(\d\d)(\d\d)$/.exec(v);
  if (!m) return false;
  const [, y = "", month = "", d = ""] = m;
  const last = new Date(Date.UTC(Number(y), Number(month), 0)).getUTCDate();
  return Number(month) >= 1 && Number(month) <= 12 && Number(d) >= 1 && Number(d) <= last;
}

/** As it is kept: in capitals, without spaces and the name of the property. */
export const tidyRule = (text: string): string =>
  text
    .toUpperCase()
    .replace(/\s+/g, "")
    .replace(/^RRULE:/, "")
    .replace(/;+$/, "");

/** The parts of a rule by name. */
export const ruleParts = (rule: string): Map<string, string> =>
  new Map(
    rule.split(";").map((p) => {
      const at = p.indexOf("=");
      return at < 0 ? [p, ""] : [p.slice(0, at), p.slice(at + 1)];
    }),
  );

/** What is wrong with a rule, in a sentence; null where nothing is. What is read otherwise than it says is refused. */
export function ruleMistake({ rule, from }: DayRule): string | null {
  if (from < EARLIEST) return `A rule is counted from a day of 2000 or later; here it is ${from}.`;
  if (rule === "") return "Say by which rule, for example: FREQ=WEEKLY;INTERVAL=2;BYDAY=TU.";
  if (rule.length > MOST_RULE) return `A rule has at most ${MOST_RULE} signs; this one has ${rule.length}.`;
  const names = rule.split(";").map((p) => p.split("=")[0]!);
  const twice = names.find((n, i) => names.indexOf(n) !== i);
  if (twice !== undefined) return `${twice} stands in the rule twice.`;
  const parts = ruleParts(rule);
  for (const [name, value] of parts) {
    const part = Object.hasOwn(PARTS, name) ? PARTS[name]! : null;
    if (!part) return `A rule for days has no “${name}”; it is made of ${Object.keys(PARTS).join(", ")}.`;
    const values = part.list ? value.split(",") : [value];
    if (!values.every(part.one)) return `${name} is ${part.says}; here it is “${value}”.`;
  }
  const freq = parts.get("FREQ");
  if (freq === undefined) return "A rule says how often: FREQ=DAILY, WEEKLY, MONTHLY or YEARLY.";
  return togetherMistake(freq, parts);
}

/** Parts that RFC 5545 does not let stand together. */
function togetherMistake(freq: string, parts: ReadonlyMap<string, string>): string | null {
  const counted = (parts.get("BYDAY") ?? "").split(",").some((d) => /^[+-]?\d/.test(d));
  if (counted && freq !== "MONTHLY" && freq !== "YEARLY")
    return "Only of a month or a year can a weekday be counted, as in BYDAY=1MO.";
  if (counted && parts.has("BYWEEKNO")) return "With BYWEEKNO weekdays are not counted.";
  if (parts.has("BYWEEKNO") && freq !== "YEARLY") return "BYWEEKNO goes with FREQ=YEARLY only.";
  if (parts.has("BYYEARDAY") && freq !== "YEARLY") return "BYYEARDAY goes with FREQ=YEARLY only.";
  if (parts.has("BYMONTHDAY") && freq === "WEEKLY") return "BYMONTHDAY does not go with FREQ=WEEKLY.";
  if (parts.has("COUNT") && parts.has("UNTIL")) return "A rule ends by COUNT or by UNTIL, not by both.";
  // Day by day through decades for the few that count would take too long.
  if (parts.has("COUNT") && freq === "DAILY" && [...parts.keys()].some((k) => k.startsWith("BY")))
    return "COUNT does not go with FREQ=DAILY and parts that leave days out: say it by WEEKLY, MONTHLY or YEARLY.";
  if (parts.has("BYSETPOS") && ![...parts.keys()].some((k) => k.startsWith("BY") && k !== "BYSETPOS"))
    return "BYSETPOS chooses among what another part gives, for example BYDAY.";
  return null;
}
