import type { Length } from "@/core/calendar/workingCalendar";
import type { StepBase } from "@/core/route/stepBase";

/** Things one wait may be for. */
export const MOST_AWAITED = 5;

/** Sleeps until the first of these comes. */
export interface Wait extends StepBase {
  kind: "wait";
  for: Awaited[];
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
