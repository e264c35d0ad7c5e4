import type { Limit } from "@/core/route/asking";
import type { StepBase } from "@/core/route/stepBase";

/** Rows under a heading, which is its name: they fold, move and are copied as one, and nothing else is different. */
export interface Part<List> extends StepBase {
  kind: "part";
  /** Exactly one: the steps under the heading. */
  bodies: PartBody<List>[];
  /** By when all that stands under it is to be done, from when it is come to. */
  limit?: Limit;
}
export interface PartBody<List> {
  id: string;
  steps: List;
}
