import type { Binding } from "@/core/kinds/ports";
import type { StepBase } from "@/core/route/stepBase";

/** Goes through a procedure, with what it is given and what is read of it afterwards. */
export interface HandTo extends StepBase, Binding {
  kind: "hand to";
  /** Key of the procedure; empty until one is chosen. */
  procedure: string;
  /** The version it is fixed to; absent for what is live when it is entered. */
  version?: string;
}
