import { Temporal } from "temporal-polyfill";
import { instantOf } from "./openings";

/** Hours in which somebody is left alone, by their own clock, as "22:00"; over midnight where `until` comes first. */
export interface QuietHours {
  from: string;
  until: string;
}

/**
 * When somebody's quiet hours end, where it is quiet now; null where it is not. Hours that end as they begin are none.
 * @param now epoch milliseconds
 * @param zone the person's own
 */
export function quietUntil({ from, until }: QuietHours, now: number, zone: string): number | null {
  const here = Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(zone);
  const wall = here.toPlainTime().toString().slice(0, 5);
  const overMidnight = until < from;
  const quiet = overMidnight ? wall >= from || wall < until : wall >= from && wall < until;
  if (!quiet) return null;
  const today = here.toPlainDate();
  const end = instantOf(overMidnight && wall >= from ? today.add({ days: 1 }) : today, until, zone);
  // In an hour that a clock shows twice it was quiet for the first of them.
  return end > now ? end : null;
}
