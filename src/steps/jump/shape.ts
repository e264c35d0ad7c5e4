import type { StepBase } from "@/core/route/stepBase";

/** Goes on with another step. */
export interface Jump extends StepBase {
  kind: "jump";
  /** Id of the step. */
  to: string;
}
