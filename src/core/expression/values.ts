import { Temporal } from "temporal-polyfill";
import { DaysTime, isDaysTime, isYearsMonths, YearsMonths } from "./durations";
import {
  dateText,
  dateTimeText,
  isDate,
  isDateTime,
  isTime,
  nsOfMoment,
  nsOfTime,
  type DateTime,
  type Time,
} from "./moments";
import { COST, noteUnclear, spend } from "./meter";
import { isNum, type Num } from "./numbers";

/** What a formula can come to. Contexts are Maps, so that no name can reach a prototype. */
export type Value =
  | null
  | boolean
  | string
  | Num
  | Temporal.PlainDate
  | Time
  | DateTime
  | DaysTime
  | YearsMonths
  | RangeValue
  | FunctionValue
  | readonly Value[]
  | ContextValue;

export type ContextValue = ReadonlyMap<string, Value>;

/** An end that is null by `open` has no bound there: `> 5` as a value is (5..). */
export class RangeValue {
  constructor(
    readonly low: Value,
    readonly high: Value,
    readonly includesLow: boolean,
    readonly includesHigh: boolean,
    readonly open: "low" | "high" | null = null,
  ) {}
}

/** A function as a value: written in the formula, or a built-in named without its brackets. */
export class FunctionValue {
  constructor(
    readonly params: readonly string[],
    readonly call: (args: readonly Value[]) => Value,
  ) {}
}

/**
 * A person, a file or a record: the same one wherever it is read, whatever was read along with it. A group of values
 * that a formula writes is none, also if it has an "id".
 */
export class Entity extends Map<string, Value> {
  /** @param of "person", "file", or the register */
  constructor(
    readonly of: string,
    readonly id: string,
    entries: Iterable<readonly [string, Value]>,
  ) {
    super([["id", id], ...entries]);
  }
}
/** One that is not there, or was not read along: what it holds cannot be told, which is not the same as empty. */
export class Unreachable extends Entity {
  constructor(of: string, id: string) {
    super(of, id, []);
  }
  override get(name: string): Value | undefined {
    if (name === "id") return super.get(name);
    noteUnclear(`The record “${this.id}” of ${this.of} cannot be read.`, "unclear");
    return undefined;
  }
}

/**
 * One of which only some columns were read along, those that are read anywhere. What was not has no value here; that
 * something asks for it all the same is told, and is never taken for its being empty.
 */
export class PartlyRead extends Entity {
  /** @param unread names of columns that were not read along */
  constructor(
    of: string,
    id: string,
    entries: Iterable<readonly [string, Value]>,
    private readonly unread: ReadonlySet<string>,
  ) {
    super(of, id, entries);
  }
  /** A name in a filter must not be looked for elsewhere. */
  override has(name: string): boolean {
    return super.has(name) || this.unread.has(name);
  }
  override get(name: string): Value | undefined {
    if (super.has(name) || !this.unread.has(name)) return super.get(name);
    noteUnclear(`“${name}” of the record “${this.id}” of ${this.of} was not read.`, "unread");
    return undefined;
  }
}

export const isContext = (v: unknown): v is ContextValue => v instanceof Map;
export const isList = (v: unknown): v is readonly Value[] => Array.isArray(v);
export const isRange = (v: unknown): v is RangeValue => v instanceof RangeValue;
export const isFunction = (v: unknown): v is FunctionValue => v instanceof FunctionValue;
export { isDate, isDateTime, isTime } from "./moments";

/** By code points, which is also the order PostgreSQL has with collation "C". */
export function compareText(a: string, b: string): number {
  if (a === b) return 0;
  const n = Math.min(a.length, b.length);
  for (let i = 0; i < n; i++) {
    const [x, y] = [a.charCodeAt(i), b.charCodeAt(i)];
    if (x === y) continue;
    // Halves of a pair stand for characters beyond all single ones.
    const high = (c: number) => {
      if (c >= 0xd800 && c <= 0xdfff) return c + 0x2000;
      if (c >= 0xe000) return c - 0x800;
      return c;
    };
    return high(x) < high(y) ? -1 : 1;
  }
  return a.length < b.length ? -1 : 1;
}
const order = <T extends number | bigint>(a: T, b: T): number => {
  if (a < b) return -1;
  if (a > b) return 1;
  return 0;
};

/** -1, 0 or 1, or null where two values have no order between them (DMN 1.5, table 54). */
export function compareValues(a: Value, b: Value): number | null {
  if (isNum(a)) return isNum(b) ? a.comparedTo(b) : null;
  if (typeof a === "string") return typeof b === "string" ? compareText(a, b) : null;
  if (isDate(a)) return isDate(b) ? Temporal.PlainDate.compare(a, b) : null;
  if (isDateTime(a)) return isDateTime(b) ? order(nsOfMoment(a, b), nsOfMoment(b, a)) : null;
  if (isTime(a)) return isTime(b) ? order(nsOfTime(a, b), nsOfTime(b, a)) : null;
  if (isDaysTime(a)) return isDaysTime(b) ? order(a.ns, b.ns) : null;
  if (isYearsMonths(a)) return isYearsMonths(b) ? order(a.months, b.months) : null;
  return null;
}

const sameEnd = (a: Value, b: Value) => equalValues(a, b) === true;

/** Equality (DMN 1.5, 10.3.2.13): null equals only null; values of different kinds give null. */
export function equalValues(a: Value, b: Value): boolean | null {
  if (a === null || b === null) return a === b;
  if (typeof a === "boolean" || typeof b === "boolean") return typeof a === typeof b ? a === b : null;
  if (isList(a) && isList(b)) {
    if (a.length !== b.length) return false;
    spend(a.length * COST.compared);
    for (let i = 0; i < a.length; i++) if (equalValues(a[i]!, b[i]!) !== true) return false;
    return true;
  }
  if (isContext(a) && isContext(b)) {
    if (a instanceof Entity && b instanceof Entity) return a.of === b.of && a.id === b.id;
    if (a.size !== b.size) return false;
    spend(a.size * COST.compared);
    for (const [k, v] of a) if (!b.has(k) || equalValues(v, b.get(k)!) !== true) return false;
    return true;
  }
  if (isRange(a) && isRange(b))
    return (
      a.open === b.open &&
      a.includesLow === b.includesLow &&
      a.includesHigh === b.includesHigh &&
      sameEnd(a.low, b.low) &&
      sameEnd(a.high, b.high)
    );
  if (isFunction(a) && isFunction(b)) return a === b;
  const c = compareValues(a, b);
  return c === null ? null : c === 0;
}

const keyText = (k: string): string => (/^[\p{L}_][\p{L}\p{N}_ ]*$/u.test(k) ? k : JSON.stringify(k));

/** A single value is a list of one, nothing a list of none (DMN 1.5, 10.3.2.5). */
export function asList(v: Value): readonly Value[] {
  if (isList(v)) return v;
  return v === null ? [] : [v];
}

/** About how long the text of a value would be; stops counting once it is beyond `limit`, so that asking is cheap. */
export function textSize(v: Value, limit: number): number {
  if (typeof v === "string") return v.length + 2;
  if (isRange(v)) return textSize(v.low, limit) + textSize(v.high, limit) + 4;
  if (isNum(v)) return 24 + Math.abs(v.magnitude);
  if (!isList(v) && !isContext(v)) return 24;
  let size = 2;
  for (const p of v.values()) if ((size += textSize(p, limit - size) + 2) > limit) break;
  return size;
}

/** Longer texts of lists and groups end in an ellipsis: nobody reads them, and some would never end. */
const MAX_SHOWN = 400_000;

/** The text of a value, as `string()` gives it and as the trail shows it. */
export function valueText(v: Value): string {
  let room = MAX_SHOWN;
  const nested = (x: Value): string => {
    const whole = () => (typeof x === "string" ? JSON.stringify(x) : text(x));
    const t = room <= 0 ? "…" : whole();
    room -= t.length;
    return t;
  };
  const joined = (parts: Iterable<Value>, each: (x: Value) => string = nested): string => {
    const out: string[] = [];
    for (const x of parts) {
      if (room <= 0) {
        out.push("…");
        break;
      }
      out.push(each(x));
    }
    return out.join(", ");
  };
  const text = (x: Value): string => {
    if (x === null) return "null";
    if (typeof x === "string") return x;
    if (typeof x === "boolean") return x ? "true" : "false";
    if (isNum(x)) return x.toFixed();
    if (isDateTime(x)) return dateTimeText(x);
    if (isDate(x)) return dateText(x);
    if (isList(x)) return `[${joined(x)}]`;
    if (isRange(x)) {
      if (x.open === "low") return `${x.includesHigh ? "<=" : "<"} ${nested(x.high)}`;
      if (x.open === "high") return `${x.includesLow ? ">=" : ">"} ${nested(x.low)}`;
      return `${x.includesLow ? "[" : "("}${nested(x.low)}..${nested(x.high)}${x.includesHigh ? "]" : ")"}`;
    }
    if (isFunction(x)) return `function(${x.params.join(", ")})`;
    if (isContext(x)) {
      if (x instanceof Unreachable) return x.id;
      if (x instanceof Entity) return typeof x.get("name") === "string" ? (x.get("name") as string) : x.id;
      const keys = [...x.keys()];
      let i = 0;
      return `{${joined(x.values(), (y) => `${keyText(keys[i++]!)}: ${nested(y)}`)}}`;
    }
    return x.toString();
  };
  return text(v);
}
