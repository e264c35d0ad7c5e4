import type { Tone } from "@/core/route/asking";
import type { StepBase } from "@/core/route/stepBase";

/** Ends the request with a result. */
export interface Finish extends StepBase {
  kind: "finish";
  result: string;
  tone: Tone;
}
