import { Temporal } from "temporal-polyfill";
import { workingDaysBetween } from "./workingDays";
import { workingBetween } from "./workingTime";
import type { Length, LengthUnit, WorkingCalendar } from "./workingCalendar";

const MINUTE = 60_000;
const HOUR = 3_600_000;
const DAY = 86_400_000;

/**
 * About how long it is from one moment to another in a unit, as somebody would say it: minutes by fives, hours by halves,
 * whole days. Negative where the second is earlier.
 */
export function lengthBetween(calendar: WorkingCalendar, from: number, to: number, unit: LengthUnit): Length {
  const amount = amountOf(calendar, from, to, unit);
  // Never the machine's minus zero.
  return { amount: amount === 0 ? 0 : amount, unit };
}

function amountOf(calendar: WorkingCalendar, from: number, to: number, unit: LengthUnit): number {
  switch (unit) {
    case "minutes":
      return Math.round((to - from) / MINUTE / 5) * 5;
    case "hours":
      return Math.round(((to - from) / HOUR) * 2) / 2;
    case "days":
      return Math.round((to - from) / DAY);
    case "working hours":
      return Math.round((workingBetween(calendar, from, to) / HOUR) * 2) / 2;
    case "working days":
      return workingDaysBetween(calendar, dateOf(calendar, from), dateOf(calendar, to)) ?? 0;
  }
}

const dateOf = ({ zone }: WorkingCalendar, ms: number): Temporal.PlainDate =>
  Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone).toPlainDate();
