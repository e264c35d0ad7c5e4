import type { AnswerChoice, Asks } from "@/core/route/asking";
import type { StepBase } from "@/core/route/stepBase";

/** People choose an answer; each answer has its own way on. */
export interface Decide<List> extends StepBase, Asks {
  kind: "decide";
  answers: (AnswerChoice & { steps: List })[];
}
