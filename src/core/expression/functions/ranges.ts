import { and, within } from "../operators";
import { dateFrom, dateTimeFrom, timeFrom } from "../moments";
import { durationFrom } from "../durations";
import { toNum } from "../numbers";
import { compareValues, equalValues, RangeValue, type Value } from "../values";
import { overload, type CallSite, type Overload } from "./define";

/** Allen's relations (DMN 1.5, 10.3.4.8, table 79). Points and ranges; null where the ends have no order. */
type Fact = boolean | null;
const lt = (a: Value, b: Value): Fact => {
  const c = compareValues(a, b);
  return c === null ? null : c < 0;
};
const eq = (a: Value, b: Value): Fact => equalValues(a, b);
const not = (a: Fact): Fact => (a === null ? null : !a);
const any = (...facts: Fact[]): Fact => {
  if (facts.includes(true)) return true;
  if (facts.includes(null)) return null;
  return false;
};
const every = (...facts: Fact[]): Fact => facts.reduce<Fact>((a, b) => and(a, b), true);
type R = RangeValue;
const rr = (f: (a: R, b: R) => Fact): Overload =>
  overload("range1: range, range2: range -> yesno", ([a, b]: [R, R], at) => closed(at, [a, b]) ?? f(a, b));
const pr = (f: (p: Value, r: R) => Fact): Overload =>
  overload("point: any, range: range -> yesno", ([p, r]: [Value, R], at) => closed(at, [r]) ?? f(p, r));
const rp = (f: (r: R, p: Value) => Fact): Overload =>
  overload("range: range, point: any -> yesno", ([r, p]: [R, Value], at) => closed(at, [r]) ?? f(r, p));
const pp = (f: (a: Value, b: Value) => Fact): Overload =>
  overload("point1: any, point2: any -> yesno", ([a, b]: [Value, Value]) => f(a, b));
/** A range with an open end has no end to compare. */
const closed = (at: CallSite, ranges: R[]): null | undefined =>
  ranges.some((r) => r.open)
    ? at.say("A range without an end on one side cannot be compared like this.")
    : undefined;

/** Both ends of two touching ranges belong to them. */
const touch = (aIn: boolean, bIn: boolean): boolean => aIn && bIn;
const before = (a: R, b: R): Fact =>
  any(lt(a.high, b.low), every(eq(a.high, b.low), !touch(a.includesHigh, b.includesLow)));
const meets = (a: R, b: R): Fact => every(touch(a.includesHigh, b.includesLow), eq(a.high, b.low));
const startsLater = (a: R, b: R): Fact =>
  any(lt(b.low, a.low), every(eq(a.low, b.low), b.includesLow || !a.includesLow));
const endsSooner = (a: R, b: R): Fact =>
  any(lt(a.high, b.high), every(eq(a.high, b.high), b.includesHigh || !a.includesHigh));
const within2 = (a: R, b: R): Fact => every(startsLater(a, b), endsSooner(a, b));
const overlap = (a: R, b: R): Fact => every(not(before(a, b)), not(before(b, a)));
/** a starts first and ends inside b. */
const overlapsBefore = (a: R, b: R): Fact =>
  every(
    any(lt(a.low, b.low), every(eq(a.low, b.low), a.includesLow && !b.includesLow)),
    not(before(a, b)),
    any(lt(a.high, b.high), every(eq(a.high, b.high), !a.includesHigh || b.includesHigh)),
  );
const finishes = (a: R, b: R): Fact =>
  every(eq(a.high, b.high), a.includesHigh === b.includesHigh, startsLater(a, b));
const starts = (a: R, b: R): Fact =>
  every(eq(a.low, b.low), a.includesLow === b.includesLow, endsSooner(a, b));

/** `range("[18..21)")`: ends are literals of one kind. */
function rangeFrom(text: string, at: CallSite): Value {
  const m = /^\s*([[\](])\s*(.*?)\s*\.\.\s*(.*?)\s*([\])[])\s*$/s.exec(text);
  const end = (t: string): Value | undefined => {
    if (t === "") return undefined;
    if (/^".*"$/s.test(t)) return t.slice(1, -1);
    const inner =
      /^@"(.*)"$/.exec(t)?.[1] ?? /^(?:date|time|date and time|duration)\(\s*"(.*)"\s*\)$/.exec(t)?.[1];
    return (
      (inner === undefined
        ? toNum(t)
        : (dateFrom(inner) ?? dateTimeFrom(inner) ?? timeFrom(inner) ?? durationFrom(inner))) ?? undefined
    );
  };
  const bad = () => at.say(`"${text.slice(0, 40)}" is no range; an example: [18..21).`);
  if (!m || m[4] === "(") return bad();
  const [low, high] = [end(m[2]!), end(m[3]!)];
  if (
    (m[2] !== "" && low === undefined) ||
    (m[3] !== "" && high === undefined) ||
    (low === undefined && high === undefined)
  )
    return bad();
  const [inLow, inHigh] = [m[1] === "[", m[4] === "]"];
  if (low === undefined) return inLow ? bad() : new RangeValue(null, high!, false, inHigh, "low");
  if (high === undefined) return inHigh ? bad() : new RangeValue(low, null, inLow, false, "high");
  const c = compareValues(low, high);
  return c === null || c > 0 ? bad() : new RangeValue(low, high, inLow, inHigh);
}

export const RANGES: Record<string, Overload[]> = {
  range: [overload("from: text -> range", ([s]: [string], at) => rangeFrom(s, at))],
  before: [
    rr(before),
    pr((p, r) => any(lt(p, r.low), every(eq(p, r.low), !r.includesLow))),
    rp((r, p) => any(lt(r.high, p), every(eq(r.high, p), !r.includesHigh))),
    pp(lt),
  ],
  after: [
    rr((a, b) => before(b, a)),
    pr((p, r) => any(lt(r.high, p), every(eq(r.high, p), !r.includesHigh))),
    rp((r, p) => any(lt(p, r.low), every(eq(p, r.low), !r.includesLow))),
    pp((a, b) => lt(b, a)),
  ],
  meets: [rr(meets)],
  "met by": [rr((a, b) => meets(b, a))],
  overlaps: [rr(overlap)],
  "overlaps before": [rr(overlapsBefore)],
  "overlaps after": [rr((a, b) => overlapsBefore(b, a))],
  finishes: [rr(finishes), pr((p, r) => every(r.includesHigh, eq(p, r.high)))],
  "finished by": [rr((a, b) => finishes(b, a)), rp((r, p) => every(r.includesHigh, eq(r.high, p)))],
  includes: [rr((a, b) => within2(b, a)), rp((r, p) => within(p, r))],
  during: [rr(within2), pr((p, r) => within(p, r))],
  starts: [rr(starts), pr((p, r) => every(r.includesLow, eq(p, r.low)))],
  "started by": [rr((a, b) => starts(b, a)), rp((r, p) => every(r.includesLow, eq(r.low, p)))],
  coincides: [
    rr((a, b) =>
      every(
        eq(a.low, b.low),
        eq(a.high, b.high),
        a.includesLow === b.includesLow,
        a.includesHigh === b.includesHigh,
      ),
    ),
    pp(eq),
  ],
};
