import type { StepBase } from "@/core/route/stepBase";

/** Sets values of the form. */
export interface WorkOut extends StepBase {
  kind: "work out";
  /** By field id, each with its formula. */
  set: { field: string; value: string }[];
}
