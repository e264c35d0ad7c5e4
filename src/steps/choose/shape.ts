import type { StepBase } from "@/core/route/stepBase";
import type { Clause } from "@/core/expression/why";

/** The way by conditions: the first that holds. */
export interface Choose<List> extends StepBase {
  kind: "choose";
  ways: Way<List>[];
  /** Ways that ask for a value of one thing are shown by that value. */
  byValue?: true;
}
export interface Way<List> {
  id: string;
  name: string;
  /** Formula; absent on the last way, taken when no other holds. */
  when?: string;
  steps: List;
}

/** Which way was taken, and why. */
export interface ChooseNews {
  kind: "choose";
  way: string;
  name: string;
  why: Clause[];
}
/** No condition holds. */
export type ChooseReason = { code: "no-way"; data: { step: string } };
