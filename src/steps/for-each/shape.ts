import type { StepBase } from "@/core/route/stepBase";

/** Rounds over a list. */
export const MOST_ROUNDS = 5000;
/** Rounds that are only counted. */
export const MOST_TIMES = 1_000_000;

/** Goes through its steps once for each of several things, each round with values of its own. */
export interface ForEach<List> extends StepBase {
  kind: "for each";
  /** Rows of line items, things of a list, or only so many times. */
  over: { lines: string } | { list: string } | { times: string };
  /** What formulas of a round call the thing; with it come "… number" and "… count". */
  item: string;
  /** Only those for which this holds. */
  only?: string;
  /** Those alike by this go together in one round: `as` is what they have in common, `item` the list of them. */
  gather?: { by: string; as: string };
  /** How many rounds may be under way at once; absent for all. */
  atOnce?: number;
  /** What each round leaves behind; the list of it is read by the name of the step. */
  collect?: string;
  /** Asked when a round has ended: no more are needed. */
  until?: string;
  /** Whether a round that is stuck holds up those that are not opened yet. */
  stuckHolds?: true;
  /** Exactly one: the steps of a round. */
  bodies: ForEachBody<List>[];
}
export interface ForEachBody<List> {
  id: string;
  steps: List;
}

/** What it goes over. */
export interface ForEachNews {
  kind: "for each";
  rounds: number;
  /** How many things go together in them; absent where each has a round of its own. */
  over?: number;
  /** How many there were before `only`; absent where it is not asked. */
  of?: number;
}
export type ForEachReason =
  | { code: "no-list"; data: { step: string; formula: string } }
  | { code: "too-many-rounds"; data: { step: string; rounds: string; limit: number } };
