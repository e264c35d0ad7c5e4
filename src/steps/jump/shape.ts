import type { Clause } from "@/core/expression/why";
import type { StepBase } from "@/core/route/stepBase";

/** Goes on with another step, always or when a condition holds; forward or back. */
export interface Jump extends StepBase {
  kind: "jump";
  /** Id of the step. */
  to: string;
  /** Formula for when it is gone there; the next step comes where it does not hold. Absent for always. */
  when?: string;
}

/** Where a condition led, and why. */
export interface JumpNews {
  kind: "jump";
  /** The step it went to; null where it went on. */
  to: string | null;
  why: Clause[];
}
