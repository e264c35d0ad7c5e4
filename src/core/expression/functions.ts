import { Temporal } from "temporal-polyfill";
import { isNum, Num, roundMoney, toNum } from "./numbers";
import { ANY, DATE, DATETIME, DURATION, listOf, NUMBER, PERSON, TEXT, TIME, YESNO, type Type } from "./types";
import { compareValues, equalValues, isContext, isDate, isDateTime, isList, valueText, type ContextValue, type Value } from "./values";
import { dateFrom, dateTimeFrom, durationFrom, timeFrom } from "./literals";

/** What a formula may ask its caller for: nothing else is reachable. */
export interface Surroundings {
  now: Temporal.ZonedDateTime;
  managerOf?(personId: string): ContextValue | null;
  holdersOf?(duty: string, place: string | null): ContextValue[];
}

export interface FormulaFunction {
  params: { name: string; type: Type; optional?: true }[];
  /** The last parameter may be given any number of times. */
  many?: true;
  result: Type | ((args: Type[]) => Type);
  run(args: Value[], around: Surroundings): Value;
}

const p = (name: string, type: Type) => ({ name, type });
const opt = (name: string, type: Type) => ({ name, type, optional: true as const });
const itemType = (args: Type[]): Type => (args[0]?.t === "list" ? args[0].of : (args[0] ?? ANY));
/** `sum(1, 2)` and `sum([1, 2])` are the same (DMN 1.5, 10.3.4.4). */
const flat = (args: Value[]): readonly Value[] => (args.length === 1 && isList(args[0]) ? args[0] : args);
const numbers = (args: Value[]): Num[] | null => {
  const out: Num[] = [];
  for (const v of flat(args)) if (isNum(v)) out.push(v);
  else return null;
  return out;
};
const int = (v: Value): number | null => (isNum(v) && v.isInteger() ? v.toNumber() : null);
const extreme = (sign: 1 | -1) => (args: Value[]): Value => {
  const list = flat(args);
  let best: Value = null;
  for (const v of list) {
    if (best === null) best = v;
    else {
      const c = compareValues(v, best);
      if (c === null) return null;
      if (c * sign > 0) best = v;
    }
  }
  return best;
};
const text1 = (f: (s: string) => Value) => ([a]: Value[]) => (typeof a === "string" ? f(a) : null);
const text2 = (f: (s: string, t: string) => Value) => ([a, b]: Value[]) =>
  typeof a === "string" && typeof b === "string" ? f(a, b) : null;
const rounder = (mode: 0 | 1 | 2 | 3 | 4 | 5 | 6) => ([a, s]: Value[]) => {
  const places = s === undefined ? 0 : int(s);
  return isNum(a) && places !== null && Math.abs(places) < 100 ? a.toDecimalPlaces(Math.max(places, 0), mode) : null;
};
const ofDate = (f: (d: { year: number; month: number; day: number; dayOfWeek: number; daysInMonth: number; toPlainDate?(): Temporal.PlainDate }) => Value) =>
  ([a]: Value[]) => (isDate(a) || isDateTime(a) ? f(a) : null);
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const idOf = (v: Value | undefined): string | null => {
  if (typeof v === "string") return v;
  const id = isContext(v) ? v.get("id") : null;
  return typeof id === "string" ? id : null;
};

/** The functions of the language (DMN 1.5, 10.3.4) that exist so far, and our own last. */
export const FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  not: { params: [p("value", YESNO)], result: YESNO, run: ([a]) => (typeof a === "boolean" ? !a : null) },
  string: { params: [p("value", ANY)], result: TEXT, run: ([a]) => (a === null || a === undefined ? null : valueText(a)) },
  number: { params: [p("text", ANY)], result: NUMBER, run: ([a]) => (typeof a === "string" ? toNum(a) : isNum(a) ? a : null) },
  date: {
    params: [p("from", ANY), opt("month", NUMBER), opt("day", NUMBER)],
    result: DATE,
    run: ([a, m, d]) => {
      if (m !== undefined) {
        const [y, mo, da] = [int(a!), int(m), int(d ?? null)];
        if (y === null || mo === null || da === null) return null;
        return dateFrom(`${String(y).padStart(4, "0")}-${String(mo).padStart(2, "0")}-${String(da).padStart(2, "0")}`);
      }
      if (isDateTime(a)) return a.toPlainDate();
      return isDate(a) ? a : typeof a === "string" ? dateFrom(a) : null;
    },
  },
  time: { params: [p("from", ANY)], result: TIME, run: ([a]) => (isDateTime(a) ? a.toPlainTime() : typeof a === "string" ? timeFrom(a) : null) },
  "date and time": {
    params: [p("from", ANY)],
    result: DATETIME,
    run: ([a], s) => {
      if (isDate(a)) return a.toZonedDateTime(s.now.timeZoneId);
      return isDateTime(a) ? a : typeof a === "string" ? dateTimeFrom(a, s.now.timeZoneId) : null;
    },
  },
  duration: { params: [p("from", TEXT)], result: DURATION, run: text1(durationFrom) },
  now: { params: [], result: DATETIME, run: (_, s) => s.now },
  today: { params: [], result: DATE, run: (_, s) => s.now.toPlainDate() },
  "day of week": { params: [p("date", ANY)], result: TEXT, run: ofDate((d) => DAYS[d.dayOfWeek - 1]!) },
  "month of year": { params: [p("date", ANY)], result: TEXT, run: ofDate((d) => new Intl.DateTimeFormat("en", { month: "long", timeZone: "UTC" }).format(Date.UTC(2000, d.month - 1, 15))) },
  count: { params: [p("list", ANY)], result: NUMBER, run: ([a]) => new Num(isList(a) ? a.length : a === null ? 0 : 1) },
  sum: { params: [p("list", ANY)], many: true, result: NUMBER, run: (args) => {
    const ns = numbers(args);
    return ns && ns.length > 0 ? ns.reduce((x, y) => x.plus(y)) : null;
  } },
  mean: { params: [p("list", ANY)], many: true, result: NUMBER, run: (args) => {
    const ns = numbers(args);
    return ns && ns.length > 0 ? ns.reduce((x, y) => x.plus(y)).div(ns.length) : null;
  } },
  min: { params: [p("list", ANY)], many: true, result: itemType, run: extreme(-1) },
  max: { params: [p("list", ANY)], many: true, result: itemType, run: extreme(1) },
  all: { params: [p("list", ANY)], many: true, result: YESNO, run: (args) => {
    let unknown = false;
    for (const v of flat(args)) if (v === false) return false;
    else if (v !== true) unknown = true;
    return unknown ? null : true;
  } },
  any: { params: [p("list", ANY)], many: true, result: YESNO, run: (args) => {
    let unknown = false;
    for (const v of flat(args)) if (v === true) return true;
    else if (v !== false) unknown = true;
    return unknown ? null : false;
  } },
  "list contains": { params: [p("list", listOf(ANY)), p("element", ANY)], result: YESNO, run: ([l, e]) => (isList(l) ? l.some((x) => equalValues(x, e ?? null) === true) : null) },
  "distinct values": { params: [p("list", listOf(ANY))], result: (a) => a[0] ?? listOf(ANY), run: ([l]) => (isList(l) ? l.filter((x, i) => l.findIndex((y) => equalValues(x, y) === true) === i) : null) },
  append: { params: [p("list", listOf(ANY)), p("item", ANY)], many: true, result: (a) => a[0] ?? listOf(ANY), run: ([l, ...more]) => (isList(l) ? [...l, ...more] : null) },
  concatenate: { params: [p("list", listOf(ANY))], many: true, result: (a) => a[0] ?? listOf(ANY), run: (ls) => (ls.every(isList) ? ls.flat() as Value[] : null) },
  "string length": { params: [p("string", TEXT)], result: NUMBER, run: text1((s) => new Num([...s].length)) },
  "upper case": { params: [p("string", TEXT)], result: TEXT, run: text1((s) => s.toUpperCase()) },
  "lower case": { params: [p("string", TEXT)], result: TEXT, run: text1((s) => s.toLowerCase()) },
  trim: { params: [p("string", TEXT)], result: TEXT, run: text1((s) => s.trim()) },
  contains: { params: [p("string", TEXT), p("match", TEXT)], result: YESNO, run: text2((s, t) => s.includes(t)) },
  "starts with": { params: [p("string", TEXT), p("match", TEXT)], result: YESNO, run: text2((s, t) => s.startsWith(t)) },
  "ends with": { params: [p("string", TEXT), p("match", TEXT)], result: YESNO, run: text2((s, t) => s.endsWith(t)) },
  "string join": { params: [p("list", listOf(TEXT)), opt("delimiter", TEXT)], result: TEXT, run: ([l, d]) => (isList(l) ? l.filter((x) => x !== null).map(valueText).join(typeof d === "string" ? d : "") : null) },
  substring: {
    params: [p("string", TEXT), p("start position", NUMBER), opt("length", NUMBER)],
    result: TEXT,
    run: ([s, at, len]) => {
      const i = int(at ?? null);
      if (typeof s !== "string" || i === null || i === 0) return null;
      const chars = [...s];
      const start = i > 0 ? i - 1 : Math.max(chars.length + i, 0);
      const n = len === undefined ? undefined : int(len);
      if (n === null) return null;
      return chars.slice(start, n === undefined ? undefined : start + n).join("");
    },
  },
  abs: { params: [p("n", NUMBER)], result: NUMBER, run: ([a]) => (isNum(a) ? a.abs() : null) },
  floor: { params: [p("n", NUMBER)], result: NUMBER, run: ([a]) => (isNum(a) ? a.floor() : null) },
  ceiling: { params: [p("n", NUMBER)], result: NUMBER, run: ([a]) => (isNum(a) ? a.ceil() : null) },
  decimal: { params: [p("n", NUMBER), p("scale", NUMBER)], result: NUMBER, run: rounder(6) },
  "round half up": { params: [p("n", NUMBER), opt("scale", NUMBER)], result: NUMBER, run: ([a, s]) => (isNum(a) ? roundMoney(a, int(s ?? new Num(0)) ?? 0) : null) },
  "round up": { params: [p("n", NUMBER), opt("scale", NUMBER)], result: NUMBER, run: rounder(0) },
  "round down": { params: [p("n", NUMBER), opt("scale", NUMBER)], result: NUMBER, run: rounder(1) },
  "is empty": { params: [p("value", ANY)], result: YESNO, run: ([a]) => a === null || a === undefined || a === "" || (isList(a) && a.length === 0) },
  "manager of": { params: [p("person", PERSON)], result: PERSON, run: ([a], s) => {
    const id = idOf(a);
    return id && s.managerOf ? s.managerOf(id) : null;
  } },
  "holders of": { params: [p("duty", TEXT), opt("place", TEXT)], result: listOf(PERSON), run: ([d, place], s) =>
    typeof d === "string" && s.holdersOf ? s.holdersOf(d, typeof place === "string" ? place : null) : null },
};
