import type { DecisionTable, TableFailure } from "@/core/decision";
import type { Clause } from "@/core/expression/why";
import type { StepBase } from "@/core/route/stepBase";

/** Applies a decision table; what it comes to is read by the name of the step: "Handling.Way". */
export interface Apply extends StepBase, DecisionTable {
  kind: "apply";
}

/** The rules it went by, from 1, and what its inputs came to. */
export interface ApplyNews {
  kind: "apply";
  rules: number[];
  why: Clause[];
}

type InStep<F> = F extends { code: infer C; data: infer D } ? { code: C; data: D & { step: string } } : never;
export type ApplyReason =
  | InStep<TableFailure>
  /** An input that may not be empty is. */
  | { code: "needs-input"; data: { step: string; input: string } };
