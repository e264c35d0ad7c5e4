import type { StepBase } from "@/core/route/stepBase";
import type { Rule } from "@/rules/shapes";

/** A notice to somebody. */
export interface Tell extends StepBase {
  kind: "tell";
  who: Rule;
  /** Texts with {formulas}. */
  subject: string;
  text: string;
  /** Formula for the record, or the records, on which the text is left as a note too. */
  on?: string;
}

/** People to be told; delivered by a worker at least once, the effect's id being the idempotency key. */
export interface TellWork {
  kind: "tell";
  people: string[];
  subject: string;
  text: string;
  on?: { register: string; id: string }[];
}
export interface TellResult {
  people: string[];
  /** On so many records it was left as a note. */
  notes?: number;
}
