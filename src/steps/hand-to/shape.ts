import type { Port } from "@/core/kinds/ports";
import type { StepBase } from "@/core/route/stepBase";

/** Values one step may hand over. */
export const MOST_HANDED = 100;

/** Goes through a procedure, with what it is given and what is read of it afterwards. */
export interface HandTo extends StepBase {
  kind: "hand to";
  /** Key of the procedure; empty until one is chosen. */
  procedure: string;
  /** The version it is fixed to; absent for what is live when it is entered. */
  version?: string;
  /** What the procedure takes, as it was when this was last brought up to date. */
  takes: Port[];
  /** What it hands back, of the same time: formulas read it by the name of the step. */
  gives: Port[];
  /** By what it takes, the formula for it. What is not named is handed over empty. */
  values: { port: string; value: string }[];
}
