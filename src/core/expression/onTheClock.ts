import { clockOf, isDate, isDateTime, isTime, isZoned } from "./moments";
import type { Value } from "./values";

const MINUTE = { smallestUnit: "minute", roundingMode: "trunc" } as const;

/** A time as the clock on the wall has it, to the minute that has begun; anything else as it is. */
export const timeOfDay = (v: Value): Value => {
  if (!isTime(v)) return v;
  const time = clockOf(v);
  return time.with({ second: 0, millisecond: 0, microsecond: 0, nanosecond: 0 });
};

/** A moment as the clock on the wall of its zone has it, to the minute that has begun; a date is its midnight. */
export const momentOnTheClock = (v: Value): Value => {
  if (isDate(v)) return v.toPlainDateTime();
  if (!isDateTime(v)) return v;
  return (isZoned(v) ? v.toPlainDateTime() : v).round(MINUTE);
};
