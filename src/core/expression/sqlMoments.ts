import { Temporal } from "temporal-polyfill";
import { isDateTime, isTime, isZoned, nsOfTime } from "./moments";
import type { Value } from "./values";

/**
 * Times and moments in SQL. Columns of them are local; they travel as seconds with all their decimals, a time since
 * midnight, a moment since the beginning of 1970 by the clock on the wall. A local one beside one in a zone stands in
 * that zone (docs/formulas.md), which around a change of clocks is not the order of the clocks on the wall.
 */
const BILLION = 1_000_000_000n;
const secondsText = (ns: bigint): string => {
  const abs = ns < 0n ? -ns : ns;
  return `${ns < 0n ? "-" : ""}${abs / BILLION}.${String(abs % BILLION).padStart(9, "0")}`;
};

/** A time as it is held against local ones; null where it is none. */
export function timeSeconds(v: Value): string | null {
  if (!isTime(v)) return null;
  return secondsText(nsOfTime(v, v) - nsOfTime(Temporal.PlainTime.from("00:00"), v));
}

/** Nanoseconds from the beginning of 1970 to a date and time, as if its clock stood in UTC. */
const wall = (v: Temporal.PlainDateTime): bigint => v.toZonedDateTime("UTC").epochNanoseconds;

/** A moment by its own clock; null where it is none. */
export const wallSeconds = (v: Value): string | null =>
  isDateTime(v) ? secondsText(wall(isZoned(v) ? v.toPlainDateTime() : v)) : null;

interface Beside {
  /** Local moments before this are before it, those after it after it. */
  at: string;
  /** Local moments that no clock shows, which count as so much later: from, until, by how much. */
  left: readonly [string, string, string] | null;
}

/** How local moments are held against one; null where it is none. */
function besideLocal(v: Value): Beside | null {
  if (!isDateTime(v)) return null;
  if (!isZoned(v)) return { at: secondsText(wall(v)), left: null };
  const at = wall(v.toPlainDateTime());
  // The last change of clocks by then, that of this very moment too.
  const change = v.add({ nanoseconds: 1 }).getTimeZoneTransition("previous");
  if (!change) return { at: secondsText(at), left: null };
  const before = BigInt(change.subtract({ nanoseconds: 1 }).offsetNanoseconds);
  const after = BigInt(change.offsetNanoseconds);
  const [was, is] = [change.epochNanoseconds + before, change.epochNanoseconds + after];
  // Put back: what the clock shows twice means the first time. The second time lies behind all of it, and is none of it.
  if (before > after && at < was) return { at: secondsText(was - 1n), left: null };
  // Put forward: what the clock never shows is as much later as it was put forward.
  const by = after - before;
  if (by > 0n && at < is + by)
    return { at: secondsText(at), left: [secondsText(was), secondsText(is), secondsText(by)] };
  return { at: secondsText(at), left: null };
}

/** A local moment, in seconds, and what it is held against, each as SQL. */
export function momentsBeside(
  local: string,
  v: Value,
  bind: (value: string) => string,
): [local: string, other: string] {
  const beside = besideLocal(v);
  if (!beside) return [local, "null::numeric"];
  const number = (text: string) => `${bind(text)}::numeric`;
  const other = number(beside.at);
  if (!beside.left) return [local, other];
  const [from, until, by] = beside.left.map(number);
  return [
    `(case when ${local} >= ${from} and ${local} < ${until} then ${local} + ${by} else ${local} end)`,
    other,
  ];
}
