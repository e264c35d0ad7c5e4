import { Temporal } from "temporal-polyfill";
import { writtenValue, type Domain } from "../conditions";
import {
  compile,
  environment,
  evaluate,
  INPUT,
  isDate,
  isNum,
  Num,
  type Node,
  type Type,
  type Value,
} from "../expression";
import { allBits, noBits, put, type Bits } from "./bits";

/**
 * The values of an input, as far as tests that are written out can tell them apart: the points they name and what lies
 * between those, each by one value that stands for all of its part. Two values of one part pass the same tests.
 */
export interface Atoms {
  /** One value of each part; nothing (null) is a part of its own, and stands last where the input may be empty. */
  values: readonly Value[];
  /** Which of them is null; -1 where none is. */
  empty: number;
  /** The parts for which a test holds; null where it is not written out, so that only a run shows. */
  holds(test: Node): Bits | null;
}

const NOW = Temporal.ZonedDateTime.from("2026-01-01T00:00[UTC]");
const TWO = Num.of(2);
const ONE = Num.of(1);
const FIRST_DAY = Temporal.PlainDate.from("1970-01-01");

/**
 * The parts of an input's values that tests tell apart; null for kinds of values of which that cannot be told.
 * @param needed whether it is never empty
 */
export function atomsOf(domain: Domain, tests: readonly Node[], needed: boolean): Atoms | null {
  const parts = partsOf(domain, tests);
  if (!parts) return null;
  const values = needed ? parts.values : [...parts.values, null];
  const empty = needed ? -1 : parts.values.length;
  return {
    values,
    empty,
    holds(test) {
      if (test.k !== "tests") return null;
      if (test.tests.length === 0) return allBits(values.length);
      const each = test.tests.map((t) => parts.holds(t));
      if (each.some((e) => e === null)) return null;
      const out = noBits(values.length);
      for (let i = 0; i < parts.values.length; i++) if (each.some((e) => e!(i)) !== test.not) put(out, i);
      // What nothing comes to in a test is a matter of three values, which is the evaluator's business.
      if (empty >= 0 && holdsForNothing(test)) put(out, empty);
      return out;
    },
  };
}

const holdsForNothing = (test: Node): boolean =>
  evaluate(compile(test), environment(new Map([[INPUT, null]]), { now: NOW })) === true;

interface Parts {
  values: Value[];
  /** Whether a single test holds for a part; null where only a run shows. */
  holds(test: Node): ((part: number) => boolean) | null;
}

function partsOf(domain: Domain, tests: readonly Node[]): Parts | null {
  const { type } = domain;
  if (type.t === "number" || type.t === "date") return ordered(domain, tests);
  if (type.t === "text") return named(type, tests);
  return type.t === "yesno" ? equalTo([true, false]) : null;
}

/** Values that are only held to be equal or not; `true` in the place of a text is a condition of its own. */
function equalTo(values: readonly (string | boolean)[]): Parts {
  return {
    values: [...values],
    holds(test) {
      const negated = test.k === "test" && test.op === "!=";
      const is = writtenValue(test.k === "test" && (test.op === "=" || negated) ? test.right : test);
      if (!is || (is.value !== null && typeof is.value !== typeof values[0])) return null;
      return (i) => (values[i] === is.value) !== negated;
    },
  };
}

function named(type: Extract<Type, { t: "text" }>, tests: readonly Node[]): Parts {
  if (type.options) return equalTo([...new Set(type.options)]);
  const written = new Set<string>();
  for (const v of writtenIn(tests)) if (typeof v === "string") written.add(v);
  let other = "anything else";
  while (written.has(other)) other += "…";
  return equalTo([...written, other]);
}

/** All that is written out in tests. */
function* writtenIn(tests: readonly Node[]): Generator<Value> {
  for (const t of tests) {
    if (t.k === "tests") yield* writtenIn(t.tests);
    else if (t.k === "test") yield* writtenIn([t.right]);
    else if (t.k === "range") yield* writtenIn([t.low, t.high]);
    else {
      const is = writtenValue(t);
      if (is) yield is.value;
    }
  }
}

/** A number, or a date as the days since the first of 1970; null for anything else. */
function onLine(v: Value): Num | null {
  if (isNum(v)) return v;
  return isDate(v) ? Num.of(FIRST_DAY.until(v, { largestUnit: "day" }).days) : null;
}

/**
 * Numbers or dates: the points that tests name, and the gaps between. A gap of money or days is none where no cent or
 * day lies in it.
 */
function ordered(domain: Domain, tests: readonly Node[]): Parts {
  const days = domain.type.t === "date";
  const grain = grainOf(domain);
  const least = onLine(domain.min ?? null);
  const most = onLine(domain.max ?? null);
  const fits = (v: Value) => (days ? isDate(v) : isNum(v));
  const borders = bordersOf([...writtenIn(tests), domain.min ?? null, domain.max ?? null].filter(fits));
  const at = (v: Value): number | null => {
    const n = fits(v) ? onLine(v) : null;
    return n === null ? null : 2 * indexOf(borders, n) + 1;
  };
  const inside = (n: Num) =>
    (least === null || n.comparedTo(least) >= 0) &&
    (most === null || n.comparedTo(most) <= 0) &&
    (grain === null || n.div(grain).isInteger());
  /** Odd places are points, even ones the gaps below them; the last is the gap above all. */
  const places: number[] = [];
  const values: Value[] = [];
  for (let p = 0; p <= 2 * borders.length; p++) {
    const n = p % 2 === 1 ? borders[(p - 1) / 2]! : between(borders[p / 2 - 1], borders[p / 2], grain);
    if (n === null || !inside(n)) continue;
    places.push(p);
    values.push(days ? FIRST_DAY.add({ days: n.toNumber() }) : n);
  }
  return {
    values,
    holds(test) {
      const range = rangeOf(test, at);
      return range && ((i) => range(places[i]!));
    },
  };
}

/** The least there is between two values; null where there always is something between. */
function grainOf({ type, grain }: Domain): Num | null {
  if (type.t === "date") return ONE;
  return grain === undefined ? null : Num.of(grain);
}

function bordersOf(values: readonly Value[]): Num[] {
  // Most are written again and again.
  const some = new Map(values.map((v) => [onLine(v)!.toString(), onLine(v)!]));
  const sorted = [...some.values()].sort((a, b) => a.comparedTo(b));
  return sorted.filter((b, i) => i === 0 || b.comparedTo(sorted[i - 1]!) !== 0);
}

/** Where a number stands among those in order, one of which it is. */
function indexOf(sorted: readonly Num[], n: Num): number {
  let low = 0;
  let high = sorted.length - 1;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (sorted[mid]!.comparedTo(n) < 0) low = mid + 1;
    else high = mid;
  }
  return low;
}

/** A value in a gap; null where there is none. */
function between(low: Num | undefined, high: Num | undefined, grain: Num | null): Num | null {
  const step = grain ?? ONE;
  if (low === undefined && high === undefined) return Num.of(0);
  if (low === undefined) return grain ? onGrain(high!, grain, "ceiling").minus(step) : high!.minus(step);
  if (high === undefined) return grain ? onGrain(low, grain, "floor").plus(step) : low.plus(step);
  if (!grain) return low.plus(high).div(TWO);
  const next = onGrain(low, grain, "floor").plus(step);
  return next.comparedTo(high) < 0 ? next : null;
}

const onGrain = (n: Num, grain: Num, how: "floor" | "ceiling"): Num =>
  n.div(grain).round(0, how).times(grain);

/** The places for which a single test holds; null where only a run shows. */
function rangeOf(test: Node, at: (v: Value) => number | null): ((place: number) => boolean) | null {
  const placed = (n: Node): number | null => {
    const is = writtenValue(n);
    return is && at(is.value);
  };
  if (test.k === "range") {
    const low = placed(test.low);
    const high = placed(test.high);
    if (low === null || high === null) return null;
    // From more to less there is nothing, at which the evaluator says nothing.
    return (p) => (test.includesLow ? p >= low : p > low) && (test.includesHigh ? p <= high : p < high);
  }
  const op = test.k === "test" ? test.op : "=";
  const right = test.k === "test" ? test.right : test;
  if (right.k === "null" && (op === "=" || op === "!=")) return () => op === "!=";
  const place = placed(right);
  if (place === null) return null;
  switch (op) {
    case "=":
      return (p) => p === place;
    case "!=":
      return (p) => p !== place;
    case "<":
      return (p) => p < place;
    case "<=":
      return (p) => p <= place;
    case ">":
      return (p) => p > place;
    case ">=":
      return (p) => p >= place;
  }
}
