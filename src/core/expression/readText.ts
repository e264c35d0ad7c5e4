import { isDaysTime, isYearsMonths } from "./durations";
import { isNum } from "./numbers";
import { isDate, isDateTime, isList, isTime, valueText, type Value } from "./values";

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"] as const;
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"] as const;

/** Most entries of a list that are read out. */
const MOST = 100;

interface Day {
  dayOfWeek: number;
  day: number;
  month: number;
  year: number;
}
const dayWords = (d: Day): string =>
  `${DAYS[d.dayOfWeek - 1]} ${d.day} ${MONTHS[d.month - 1]} ${d.year < 0 ? `${-d.year} BC` : d.year}`;
const two = (n: number): string => String(n).padStart(2, "0");
const clock = (t: { hour: number; minute: number }): string => `${two(t.hour)}:${two(t.minute)}`;

/** Digits in threes, kept apart by narrow spaces, as the pages do it. */
export const grouped = (decimal: string): string => {
  const [whole = "", part] = decimal.split(".");
  const apart = whole.replace(/\B(?=(\d{3})+$)/g, "\u202f");
  return part === undefined ? apart : `${apart}.${part}`;
};

/**
 * A value as a person reads it in a title, a message or the trail: days with their weekday, clock times, yes and no, the
 * names of people and records, lists without brackets. Formulas and stored data keep `valueText`.
 * @param money whether a number is a sum of money: it reads with its cents, digits in threes
 */
export function readText(v: Value, money = false): string {
  if (v === null) return "";
  if (typeof v === "boolean") return v ? "yes" : "no";
  if (isNum(v)) return money ? grouped(v.toFixed(2)) : valueText(v);
  if (isDateTime(v)) return `${dayWords(v)}, ${clock(v)}`;
  if (isDate(v)) return dayWords(v);
  if (isTime(v)) return valueText(v).slice(0, 5);
  if (isDaysTime(v) || isYearsMonths(v)) return lengthWords(valueText(v));
  if (isList(v)) {
    const shown = v.slice(0, MOST).map((x) => readText(x, money));
    return v.length > MOST ? `${shown.join(", ")} and ${v.length - MOST} more` : shown.join(", ");
  }
  return valueText(v);
}

const UNITS: Record<string, readonly [string, string]> = {
  Y: ["year", "years"],
  M: ["month", "months"],
  D: ["day", "days"],
  TH: ["hour", "hours"],
  TM: ["minute", "minutes"],
  TS: ["second", "seconds"],
};

/** "P1DT3H" (ISO 8601, 5.5.2) as "1 day 3 hours". */
function lengthWords(iso: string): string {
  const [days = "", times = ""] = iso.replace(/^-?P/, "").split("T");
  const parts = (text: string, time: string) =>
    [...text.matchAll(/([\d.]+)([A-Z])/g)].map(([, n, unit]) => {
      const [one, more] = UNITS[`${time}${unit}`]!;
      return `${n} ${n === "1" ? one : more}`;
    });
  const words = [...parts(days, ""), ...parts(times, "T")].join(" ");
  return iso.startsWith("-") ? `minus ${words}` : words;
}
