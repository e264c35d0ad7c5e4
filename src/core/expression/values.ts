import { Temporal } from "temporal-polyfill";
import { isNum, type Num } from "./numbers";

/** What a formula can come to. Contexts are Maps, so that no name can reach a prototype. */
export type Value =
  | null
  | boolean
  | string
  | Num
  | Temporal.PlainDate
  | Temporal.PlainTime
  | Temporal.ZonedDateTime
  | Temporal.Duration
  | RangeValue
  | readonly Value[]
  | ContextValue;

export type ContextValue = ReadonlyMap<string, Value>;

export class RangeValue {
  constructor(
    readonly low: Value,
    readonly high: Value,
    readonly includesLow: boolean,
    readonly includesHigh: boolean,
  ) {}
}

export const isDate = (v: unknown): v is Temporal.PlainDate => v instanceof Temporal.PlainDate;
export const isTime = (v: unknown): v is Temporal.PlainTime => v instanceof Temporal.PlainTime;
export const isDateTime = (v: unknown): v is Temporal.ZonedDateTime => v instanceof Temporal.ZonedDateTime;
export const isDuration = (v: unknown): v is Temporal.Duration => v instanceof Temporal.Duration;
export const isContext = (v: unknown): v is ContextValue => v instanceof Map;
export const isList = (v: unknown): v is readonly Value[] => Array.isArray(v);

/** The total length of a days-and-time duration in milliseconds. */
export const durationMs = (d: Temporal.Duration): number =>
  ((d.days + d.weeks * 7) * 24 + d.hours) * 3_600_000 + d.minutes * 60_000 + d.seconds * 1000 + d.milliseconds;

export const isYearsMonths = (d: Temporal.Duration): boolean => d.years !== 0 || d.months !== 0;

/** -1, 0 or 1, or null where two values have no order between them (DMN 1.5, table 42). */
export function compareValues(a: Value, b: Value): number | null {
  if (isNum(a) && isNum(b)) return a.comparedTo(b);
  if (typeof a === "string" && typeof b === "string") return a < b ? -1 : a > b ? 1 : 0;
  if (isDate(a) && isDate(b)) return Temporal.PlainDate.compare(a, b);
  if (isTime(a) && isTime(b)) return Temporal.PlainTime.compare(a, b);
  if (isDateTime(a) && isDateTime(b)) return Temporal.Instant.compare(a.toInstant(), b.toInstant());
  if (isDuration(a) && isDuration(b)) {
    if (isYearsMonths(a) !== isYearsMonths(b)) return null;
    const x = isYearsMonths(a) ? a.years * 12 + a.months : durationMs(a);
    const y = isYearsMonths(b) ? b.years * 12 + b.months : durationMs(b);
    return x < y ? -1 : x > y ? 1 : 0;
  }
  return null;
}

/** Equality (DMN 1.5, 10.3.2.13): null equals only null; values of different kinds give null. */
export function equalValues(a: Value, b: Value): boolean | null {
  if (a === null || b === null) return a === b;
  if (typeof a === "boolean" || typeof b === "boolean") return typeof a === typeof b ? a === b : null;
  if (isList(a) && isList(b)) {
    if (a.length !== b.length) return false;
    for (let i = 0; i < a.length; i++) if (equalValues(a[i]!, b[i]!) !== true) return false;
    return true;
  }
  if (isContext(a) && isContext(b)) {
    // Records and people are the same when they are the same one, whatever columns were read along.
    const ida = a.get("id");
    const idb = b.get("id");
    if (typeof ida === "string" && typeof idb === "string") return ida === idb;
    if (a.size !== b.size) return false;
    for (const [k, v] of a) if (!b.has(k) || equalValues(v, b.get(k)!) !== true) return false;
    return true;
  }
  if (a instanceof RangeValue && b instanceof RangeValue) {
    return (
      a.includesLow === b.includesLow &&
      a.includesHigh === b.includesHigh &&
      equalValues(a.low, b.low) === true &&
      equalValues(a.high, b.high) === true
    );
  }
  const order = compareValues(a, b);
  return order === null ? null : order === 0;
}

/** The text of a value, as `string()` gives it and as the trail shows it. */
export function valueText(v: Value): string {
  if (v === null) return "null";
  if (typeof v === "string") return v;
  if (typeof v === "boolean") return v ? "true" : "false";
  if (isNum(v)) return v.toFixed();
  if (isDateTime(v)) return v.toString({ timeZoneName: "never" });
  if (isList(v)) return `[${v.map((x) => (typeof x === "string" ? JSON.stringify(x) : valueText(x))).join(", ")}]`;
  if (v instanceof RangeValue)
    return `${v.includesLow ? "[" : "("}${valueText(v.low)}..${valueText(v.high)}${v.includesHigh ? "]" : ")"}`;
  if (isContext(v)) {
    const name = v.get("name") ?? v.get("Name") ?? v.get("id");
    if (v.has("id") && typeof name === "string") return name;
    return `{${[...v].map(([k, x]) => `${k}: ${typeof x === "string" ? JSON.stringify(x) : valueText(x)}`).join(", ")}}`;
  }
  return v.toString();
}
