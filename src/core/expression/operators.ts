import { Temporal } from "temporal-polyfill";
import type { ArithOp, CompareOp } from "./ast";
import {
  DAY,
  DaysTime,
  daysTime,
  durationFrom,
  fromSeconds,
  isDaysTime,
  isYearsMonths,
  secondsOf,
  yearsMonths,
  type YearsMonths,
} from "./durations";
import {
  attempt,
  dateFrom,
  dateTimeFrom,
  isZoned,
  nsOfMoment,
  nsOfTime,
  offsetOf,
  shiftMoment,
  shiftTime,
  timeFrom,
  ZonedTime,
  clockOf,
} from "./moments";
import { COST, spend } from "./meter";
import { divide, finite, isNum, Num } from "./numbers";
import {
  compareValues,
  equalValues,
  isContext,
  isDate,
  isDateTime,
  isList,
  isRange,
  isTime,
  type RangeValue,
  type Value,
} from "./values";

/** Ternary logic (DMN 1.5, tables 50 and 51): what is not yes or no counts as unknown. */
export const and = (a: Value, b: Value): boolean | null => {
  if (a === false || b === false) return false;
  if (a === true && b === true) return true;
  return null;
};
export const or = (a: Value, b: Value): boolean | null => {
  if (a === true || b === true) return true;
  if (a === false && b === false) return false;
  return null;
};

export function comparison(op: CompareOp, a: Value, b: Value): boolean | null {
  if (op === "=") return equalValues(a, b);
  if (op === "!=") {
    const e = equalValues(a, b);
    return e === null ? null : !e;
  }
  const c = compareValues(a, b);
  if (c === null) return null;
  if (op === "<") return c < 0;
  if (op === "<=") return c <= 0;
  if (op === ">") return c > 0;
  return c >= 0;
}

export const within = (v: Value, r: RangeValue): boolean | null =>
  and(
    r.open === "low" ? true : comparison(r.includesLow ? ">=" : ">", v, r.low),
    r.open === "high" ? true : comparison(r.includesHigh ? "<=" : "<", v, r.high),
  );

/** Whether `v` passes a test given as a value (DMN 1.5, table 55): in a range, one of a list, or equal. */
export function passes(v: Value, test: Value): boolean | null {
  if (isRange(test) && !isRange(v)) return within(v, test);
  if (isList(test)) {
    // A list stands for any of its items; the list itself may also be meant.
    spend(test.length);
    if (isList(v) && equalValues(v, test) === true) return true;
    let out: boolean | null = false;
    for (const t of test) if ((out = or(out, passes(v, t))) === true) return true;
    return out;
  }
  return equalValues(v, test);
}

const months = (d: { months: number }) => ({ months: d.months });
const shiftDate = (d: Temporal.PlainDate, by: DaysTime | YearsMonths, sign: 1 | -1): Value => {
  if (isYearsMonths(by)) return attempt(() => d.add({ months: sign * by.months }));
  // Hours that do not fill a day move the date back or forward past midnight, as midnight plus the length would.
  const ns = BigInt(sign) * by.ns;
  const days = ns >= 0n ? ns / DAY : -((-ns + DAY - 1n) / DAY);
  return attempt(() => d.add({ days: Number(days) }));
};
const utc = (d: Temporal.PlainDate) => d.toPlainDateTime();

/** One arithmetic operation (DMN 1.5, 10.3.2.12, tables 59 to 63); null where the two do not go together. */
export function arith(op: ArithOp, a: Value, b: Value): Value {
  if (isNum(a) && isNum(b)) {
    switch (op) {
      case "+":
        return finite(a.plus(b));
      case "-":
        return finite(a.minus(b));
      case "*":
        return finite(a.times(b));
      case "/":
        spend(COST.division);
        return divide(a, b);
      case "**":
        spend(b.isInteger() ? COST.wholePower : COST.power);
        return finite(a.pow(b));
    }
  }
  if (a === null || b === null) return null;
  if (typeof a === "string") return typeof b === "string" && op === "+" ? a + b : null;
  if (op === "+" || op === "-") {
    if (
      typeof a === "object" &&
      typeof b === "object" &&
      (isDate(a) || isDateTime(a) || isDate(b) || isDateTime(b))
    )
      spend(COST.moment);
    return sum(op, a, b);
  }
  if (op === "*") {
    if (isNum(b)) return scaled(a, b);
    if (isNum(a)) return scaled(b, a);
    return null;
  }
  if (op === "/") {
    if (isDaysTime(a) && isDaysTime(b)) return divide(secondsOf(a), secondsOf(b));
    if (isYearsMonths(a) && isYearsMonths(b)) return divide(Num.of(a.months), Num.of(b.months));
    if (!isNum(b) || b.isZero()) return null;
    if (isYearsMonths(a)) return wholeMonths(Num.of(a.months).div(b));
    return isDaysTime(a) ? fromSeconds(secondsOf(a).div(b)) : null;
  }
  return null;
}
const wholeMonths = (n: Num): Value => yearsMonths(n.round(0, "down").toNumber());
const scaled = (d: Value, n: Num): Value => {
  if (isYearsMonths(d)) return wholeMonths(Num.of(d.months).times(n));
  if (isDaysTime(d)) return fromSeconds(secondsOf(d).times(n));
  return null;
};

function sum(op: "+" | "-", a: Value, b: Value): Value {
  const sign = op === "+" ? 1 : -1;
  if (isDaysTime(b)) {
    if (isDaysTime(a)) return daysTime(a.ns + BigInt(sign) * b.ns);
    if (isDate(a)) return shiftDate(a, b, sign);
    if (isDateTime(a)) return shiftMoment(a, new DaysTime(BigInt(sign) * b.ns));
    if (isTime(a)) return shiftTime(a, BigInt(sign) * b.ns);
    return null;
  }
  if (isYearsMonths(b)) {
    if (isYearsMonths(a)) return yearsMonths(a.months + sign * b.months);
    if (isDate(a)) return shiftDate(a, b, sign);
    if (isDateTime(a)) return attempt(() => a.add(months({ months: sign * b.months })));
    return null;
  }
  if (op === "+") {
    if (isDaysTime(a) || isYearsMonths(a)) {
      if (isDate(b) || isDateTime(b) || isTime(b)) return sum("+", b, a);
      return null;
    }
    return null;
  }
  if (isDate(a) && isDate(b)) return daysTime(BigInt(b.until(a).days) * DAY);
  // A date beside a moment counts as its midnight (DMN 1.5, table 59).
  if (isDateTime(a) || isDateTime(b)) {
    const [x, y] = [isDate(a) ? utc(a) : a, isDate(b) ? utc(b) : b];
    return isDateTime(x) && isDateTime(y) ? daysTime(nsOfMoment(x, y) - nsOfMoment(y, x)) : null;
  }
  if (isTime(a) && isTime(b)) return daysTime(nsOfTime(a, b) - nsOfTime(b, a));
  return null;
}

export const negated = (v: Value): Value => {
  if (isNum(v)) return v.negated();
  if (isDaysTime(v)) return daysTime(-v.ns);
  if (isYearsMonths(v)) return yearsMonths(-v.months);
  return null;
};

/** `v.name`: an entry, a part of a date or length, an end of a range, or that of every item of a list. */
export function member(v: Value, name: string): Value {
  if (isContext(v)) return v.get(name) ?? null;
  if (isList(v)) {
    spend(v.length * COST.member);
    return v.map((x) => member(x, name));
  }
  if (v === null || typeof v !== "object") return null;
  const n = part(v, name);
  return typeof n === "number" ? Num.of(n) : n;
}

function part(v: Exclude<Value, null | string | boolean>, name: string): Value | number {
  if (isRange(v)) {
    const parts: Record<string, Value> = {
      start: v.open === "low" ? null : v.low,
      end: v.open === "high" ? null : v.high,
      "start included": v.includesLow,
      "end included": v.includesHigh,
    };
    return Object.hasOwn(parts, name) ? parts[name]! : null;
  }
  if (isYearsMonths(v)) {
    if (name === "years") return Math.trunc(v.months / 12);
    if (name === "months") return v.months % 12;
    return null;
  }
  if (isDaysTime(v)) {
    const size = { days: DAY, hours: DAY / 24n, minutes: DAY / 1440n, seconds: DAY / 86400n }[name];
    if (size === undefined) return null;
    const wrap = { days: 0n, hours: 24n, minutes: 60n, seconds: 60n }[name]!;
    const whole = v.ns / size;
    return Number(wrap ? whole % wrap : whole);
  }
  if (isDate(v) || isDateTime(v)) {
    if (name === "year" || name === "month" || name === "day") return v[name];
    if (name === "weekday") return v.dayOfWeek;
  }
  if (isDateTime(v) || isTime(v)) {
    const clock = isTime(v) ? clockOf(v) : v;
    if (name === "hour" || name === "minute") return clock[name];
    if (name === "second") return clock.second;
    const ofTime = v instanceof ZonedTime ? v.zone : null;
    const zone = isZoned(v) ? v.timeZoneId : ofTime;
    if (name === "timezone") return zone !== null && zone !== "UTC" && !/^[+-]/.test(zone) ? zone : null;
    if (name === "time offset") {
      if (isZoned(v)) return daysTime(BigInt(v.offsetNanoseconds));
      if (v instanceof ZonedTime) return daysTime(BigInt(offsetOf(v)) * 1_000_000_000n);
      return null;
    }
  }
  return null;
}

/** `@"..."` (DMN 1.5, 10.3.2.3.7): whichever of the kinds the text is. */
export const atLiteral = (text: string): Value =>
  dateFrom(text) ?? dateTimeFrom(text) ?? timeFrom(text) ?? durationFrom(text);

/** The position a filter names: 1 is the first, -1 the last. */
export function itemAt(list: readonly Value[], n: Num): Value {
  if (!n.isInteger() || n.isZero()) return null;
  const i = n.toNumber();
  return list[i > 0 ? i - 1 : list.length + i] ?? null;
}
