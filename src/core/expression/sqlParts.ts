import { Temporal } from "temporal-polyfill";
import { isDaysTime, isYearsMonths, type DaysTime } from "./durations";
import { isNum } from "./numbers";
import type { Env } from "./run";
import { timeSeconds, wallSeconds } from "./sqlMoments";
import type { Type } from "./types";
import { Entity, isContext, isDate, valueText, type Value } from "./values";

/**
 * What a part of a condition is in SQL. Lengths of days travel as seconds, of months as their number; a date that is
 * worked out as the number of its day (migration 0007), because a date of the database has a narrower range.
 */
export type Kind =
  | "text"
  | "number"
  | "yesno"
  | "date"
  | "day"
  | "days"
  | "months"
  | "time"
  | "moment"
  /** A record by its id; of which register it is the types say. */
  | "record"
  /** A record of any of several registers: "treatments/12". */
  | "pointer"
  /** Several texts in a column, a line each; they stand in columns alone. */
  | "choices"
  | "null";
export type Bind = (value: string | boolean | null) => string;
export type Emit = (env: Env, bind: Bind) => string;

export interface Part {
  kind: Kind;
  emit: Emit;
  /** Of a date: the number of its day. */
  day?: Emit;
  /** A column or a value: it may be written more than once. */
  simple?: true;
  /** Of a column: what an index can be asked where it must be a value. */
  indexed?(value: string): string;
  /** A value from outside, the same for every row. */
  sent?: true;
  /** Of a record: the same as one of any of several registers. */
  pointer?: Emit;
  /** Of a moment from outside: what it is, as local ones are held against it by more than its clock. */
  moment?(env: Env): Value;
}

const SAME: ReadonlySet<string> = new Set(["text", "number", "yesno", "date", "time", "null"]);

/** What a value of this type is in SQL; null where a search cannot hold it. */
export function kindOf(t: Type): Kind | null {
  if (t.t === "duration") return t.kind ?? null;
  if (t.t === "context" && t.among) return "pointer";
  if (t.t === "context") return t.what === undefined ? null : "record";
  if (t.t === "datetime") return "moment";
  return SAME.has(t.t) ? (t.t as Kind) : null;
}

/** Names for what is worked out once, one for each in a condition. */
export class Names {
  private made = 0;
  next(): string {
    return `v${++this.made}`;
  }
}

/**
 * What uses a part more than once, with the part worked out once: written out each time, conditions nested in one
 * another would double at every level. `offset 0` keeps the database from putting it in again by itself.
 */
export function once(of: Part, names: Names, within: (of: Part) => Part): Part {
  if (of.simple) return within(of);
  const name = names.next();
  const used = within({ kind: of.kind, simple: true, emit: () => name });
  return {
    kind: used.kind,
    emit: (e, b) =>
      `(select ${used.emit(e, b)} from (select ${of.emit(e, b)} as ${name} offset 0) s_${name})`,
  };
}

/** A date as the number of its day. */
export const asDay = (p: Part): Part => {
  if (p.kind !== "date") return p;
  const emit: Emit = p.day ?? ((e, b) => `day_of(${p.emit(e, b)})`);
  return { kind: "day", emit, ...(p.simple ? { simple: true } : {}) };
};

const CAST: Record<Kind, string> = {
  text: "::text",
  number: "::numeric",
  yesno: "::boolean",
  date: "::date",
  day: "::bigint",
  days: "::numeric",
  months: "::numeric",
  time: "::numeric",
  moment: "::numeric",
  record: "::text",
  pointer: "::text",
  choices: "::text",
  null: "",
};

/** What no record and no person has for an id. */
const NO_RECORD = "{}";

/** A value as a bound parameter; one of another kind than expected is nothing. */
export function constant(kind: Kind, v: Value, bind: Bind): string {
  if (kind === "null" || v === null) return `null${CAST[kind]}`;
  // A value that is in no register is there all the same, and different from every record.
  if (isContext(v)) {
    const id = kind === "pointer" && v instanceof Entity ? `${v.of}/${v.id}` : null;
    return `${bind(id ?? (v instanceof Entity ? v.id : NO_RECORD))}::text`;
  }
  if (isDaysTime(v)) return `${bind(seconds(v))}::numeric`;
  if (kind === "time" || kind === "moment") {
    // What a moment is held against its own comparing says; here it is only told from nothing.
    const seconds = kind === "time" ? timeSeconds(v) : wallSeconds(v);
    return seconds === null ? `null${CAST[kind]}` : `${bind(seconds)}${CAST[kind]}`;
  }
  if (isYearsMonths(v)) return `${bind(String(v.months))}::numeric`;
  if (typeof v === "boolean" && kind === "yesno") return `${bind(v)}::boolean`;
  if (isDate(v)) {
    if (kind === "day") return `${bind(String(dayNumber(v)))}::bigint`;
    return kind === "date" ? `${bind(databaseDate(v))}::date` : `null${CAST[kind]}`;
  }
  if ((isNum(v) && kind === "number") || (typeof v === "string" && kind === "text"))
    return `${bind(valueText(v))}${CAST[kind]}`;
  return `null${CAST[kind]}`;
}

const DAY_ZERO = Temporal.PlainDate.from("1970-01-01");
const dayNumber = (d: Temporal.PlainDate): number => DAY_ZERO.until(d, { largestUnit: "days" }).days;

/** PostgreSQL counts years before the first without a year 0, and begins at 4713 BC: before that all dates are alike. */
function databaseDate(d: Temporal.PlainDate): string {
  if (d.year < -4711) return "-infinity";
  if (d.year > 0) return valueText(d);
  const two = (n: number) => String(n).padStart(2, "0");
  return `${String(1 - d.year).padStart(4, "0")}-${two(d.month)}-${two(d.day)} BC`;
}

const seconds = (d: DaysTime): string => {
  const abs = d.ns < 0n ? -d.ns : d.ns;
  return `${d.ns < 0n ? "-" : ""}${abs / 1_000_000_000n}.${String(abs % 1_000_000_000n).padStart(9, "0")}`;
};
