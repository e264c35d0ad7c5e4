import type { Asks } from "@/core/route/asking";
import type { StepBase } from "@/core/route/stepBase";

/** A person fills in or confirms. */
export interface Complete extends StepBase, Asks {
  kind: "complete";
  /** The words on the button. */
  button: string;
}
