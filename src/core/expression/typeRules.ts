import type { TypeName } from "./ast";
import type { FormulaFunction } from "./functions";
import {
  DATE,
  DATETIME,
  DAYS,
  fits,
  listOf,
  MONTHS,
  NUMBER,
  TEXT,
  TIME,
  YESNO,
  ANY,
  type Type,
} from "./types";

/** Parts that can be read off a date or time (DMN 1.5, 10.3.2.5, table 53). */
const DATE_PARTS: Record<string, Type> = { year: NUMBER, month: NUMBER, day: NUMBER, weekday: NUMBER };
const TIME_PARTS: Record<string, Type> = {
  hour: NUMBER,
  minute: NUMBER,
  second: NUMBER,
  "time offset": DAYS,
  timezone: TEXT,
};

const LENGTH_PARTS = Object.fromEntries(
  ["years", "months", "days", "hours", "minutes", "seconds"].map((part) => [part, NUMBER]),
);
/** What can stand behind a dot after a value of this type, other than a context (DMN 1.5, table 65). */
export function partTypes(t: Type): Record<string, Type> {
  if (t.t === "date") return DATE_PARTS;
  if (t.t === "datetime") return { ...DATE_PARTS, ...TIME_PARTS };
  if (t.t === "time") return TIME_PARTS;
  if (t.t === "duration") return LENGTH_PARTS;
  return t.t === "range" ? { start: t.of, end: t.of, "start included": YESNO, "end included": YESNO } : {};
}

/** The type a written type name means; what is not known is anything. */
export const named = (type: TypeName | undefined): Type => {
  if (!type) return ANY;
  if (type.t === "list") return listOf(named(type.of));
  if (type.t === "range") return { t: "range", of: named(type.of) };
  if (type.t === "context")
    return { t: "context", fields: Object.fromEntries(type.fields.map((f) => [f.name, named(f.type)])) };
  if (type.t === "function")
    return { t: "function", params: type.params.map(named), result: named(type.result) };
  const simple: Record<string, Type> = {
    number: NUMBER,
    string: TEXT,
    text: TEXT,
    boolean: YESNO,
    date: DATE,
    time: TIME,
    "date and time": DATETIME,
    "days and time duration": DAYS,
    "years and months duration": MONTHS,
  };
  return Object.hasOwn(simple, type.name) ? simple[type.name]! : ANY;
};

/** Whether an argument of a kind can be made to fit (see `coerced`). */
export const accepts = (wanted: Type, given: Type): boolean =>
  fits(given, wanted) ||
  (wanted.t === "list" && given.t !== "list" && fits(given, wanted.of)) ||
  (given.t === "list" && wanted.t !== "list" && fits(given.of, wanted)) ||
  (wanted.t === "datetime" && given.t === "date");

/** What a function takes, in words. */
export const inputs = (fn: FormulaFunction): string =>
  fn.overloads
    .map(
      (o) =>
        o.params.map((q) => (q.optional ? `${q.name} (may be left out)` : q.name)).join(", ") || "nothing",
    )
    .join("; or ");

/** What an operation on two lengths, dates or times gives (DMN 1.5, tables 59 to 63). */
export function sumType(op: string, l: Type, r: Type): Type | null {
  const kind = (t: Type) => (t.t === "duration" ? (t.kind ?? "duration") : t.t);
  const [a, b] = [kind(l), kind(r)];
  const length = (k: string) => k === "days" || k === "months" || k === "duration";
  const moment = (k: string) => k === "date" || k === "datetime";
  if (op === "+") {
    if (a === "text" && b === "text") return TEXT;
    if (length(a) && length(b)) {
      if (a === b) return l;
      if (a === "duration") return r;
      if (b === "duration") return l;
      return null;
    }
    if (moment(a) && length(b)) return l;
    if (length(a) && moment(b)) return r;
    if (a === "time" && length(b) && b !== "months") return TIME;
    return length(a) && a !== "months" && b === "time" ? TIME : null;
  }
  if (op === "-") {
    if (moment(a) && moment(b)) return DAYS;
    if (a === "time" && b === "time") return DAYS;
    if (length(a) && length(b)) {
      if (a === b) return l;
      if (a === "duration") return r;
      if (b === "duration") return l;
      return null;
    }
    if (moment(a) && length(b)) return l;
    return a === "time" && length(b) && b !== "months" ? TIME : null;
  }
  if (op === "*") {
    if (length(a) && b === "number") return l;
    if (a === "number" && length(b)) return r;
    return null;
  }
  if (op === "/") {
    if (length(a) && b === "number") return l;
    if (length(a) && length(b) && (a === b || a === "duration" || b === "duration")) return NUMBER;
    return null;
  }
  return null;
}
