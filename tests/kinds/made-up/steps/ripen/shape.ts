import type { StepBase } from "@/core/route/stepBase";

/** Made up for the tests: something is left to ripen until it is good. */
export interface Ripen extends StepBase {
  kind: "ripen";
  register: string;
  /** Formula for how long. */
  days: string;
}
export interface RipenWork {
  kind: "ripen";
  days: string;
}
export interface RipenResult {
  taste: string;
}
export interface RipenNews {
  kind: "ripen";
  taste: string;
}
export type RipenReason = { code: "went-off"; data: { step: string } };
