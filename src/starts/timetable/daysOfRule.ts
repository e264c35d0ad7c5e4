import { RRuleTemporal } from "rrule-temporal";
import { Temporal } from "temporal-polyfill";
import { ruleMistake, ruleParts, type DaysOfRule } from "@/core/calendar";

/** Periods looked through for one window: more than thirteen years of days. */
const MOST_PERIODS = 5000;
const figures = (d: Temporal.PlainDate): string => d.toString().replaceAll("-", "");
const midnight = (d: Temporal.PlainDate): Date => new Date(`${d.toString()}T00:00:00Z`);

/**
 * The days of a rule in a window, by the package. Looking ends with the window, so that a rule of which no day ever comes
 * is soon known to have none. A rule that is wrong has no days: its mistake is told where it is written.
 */
export const daysOfRule: DaysOfRule = ({ rule, from }, first, last) => {
  if (ruleMistake({ rule, from }) !== null) return [];
  const parts = ruleParts(rule);
  const until = parts.get("UNTIL");
  parts.set("UNTIL", `${until !== undefined && until < figures(last) ? until : figures(last)}T000000Z`);
  const text = [...parts].map(([k, v]) => `${k}=${v}`).join(";");
  const start = from.replaceAll("-", "");
  const found = new RRuleTemporal({
    rruleString: `DTSTART:${start}T000000Z\nRRULE:${text}`,
    maxIterations: MOST_PERIODS,
  }).between(midnight(first), midnight(last), true);
  return found.map((d) => Temporal.PlainDate.from(d.toString().slice(0, 10)));
};
