import type { Asks } from "@/core/route/asking";
import type { StepBase } from "@/core/route/stepBase";

/** A person fills in or confirms. */
export interface Complete extends StepBase, Asks {
  kind: "complete";
  /** The words on the button. */
  button: string;
  /** Ids of copied and fixed fields and columns that are read anew as it is pressed. */
  anew?: string[];
  /**
   * The route goes on meanwhile, and the task is done beside it: what becomes of it where the request ends first. Absent
   * where the route waits for it.
   */
  beside?: "called off" | "stays";
}
