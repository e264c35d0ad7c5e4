import type { Temporal } from "temporal-polyfill";
import type { ContextValue } from "./values";

/** What a formula may ask its caller for: nothing else is reachable. */
export interface Surroundings {
  now: Temporal.ZonedDateTime;
  /**
   * Whether the time for all of what is being done is over: the caller's clock, which decides nothing but whether the
   * whole is given up (`TooHeavy`). What a formula comes to hangs on counted work alone.
   */
  outOfTime?(): boolean;
  managerOf?(personId: string): ContextValue | null;
  holdersOf?(duty: string, place: string | null): ContextValue[];
  /** Working time by the calendar that goes with the place the formula stands in. */
  working?: {
    /** The date `days` working days on (or back); null when that is beyond the calendar. */
    add(date: Temporal.PlainDate, days: number): Temporal.PlainDate | null;
    /** Working days after the first date up to and with the second; negative when it is earlier. */
    between(from: Temporal.PlainDate, to: Temporal.PlainDate): number | null;
  };
}
