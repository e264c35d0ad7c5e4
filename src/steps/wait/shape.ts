import type { Length } from "@/core/calendar/workingCalendar";
import type { StepBase } from "@/core/route/stepBase";

/** Things one wait may be for. */
export const MOST_AWAITED = 5;

/** Sleeps until the first of these comes. */
export interface Wait<List> extends StepBase {
  kind: "wait";
  for: Awaited[];
  /** At most one: the way that is taken where the time is over before a condition came to hold. */
  ways: WaitWay<List>[];
}
export interface WaitWay<List> {
  id: string;
  steps: List;
}
export type Awaited = { id: string } & (
  | { length: Length }
  /** Formula for a day: its beginning, where the process's calendar is. */
  | { date: string }
  /** Formula for a date and time. */
  | { moment: string }
  /** Condition that is to hold, over the request or the records it reads. */
  | { holds: string }
);

/** It did not wait. */
export interface WaitNews {
  kind: "wait";
  /** The moment had come before it was waited for, or the condition held already. */
  passed: true;
  held?: true;
}
export type WaitReason = { code: "no-moment"; data: { step: string } };
