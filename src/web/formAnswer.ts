import "server-only";
import type { FormAnswer } from "@/core/form";
import { sentenceOf, type Outcome } from "@/services";

/** What a form is answered, as its page shows it: where it may not be asked, why nothing can be picked. */
export async function formAnswer(outcome: Outcome<FormAnswer>): Promise<FormAnswer> {
  if (outcome.ok) return outcome.value;
  return { offered: [], none: await sentenceOf(outcome.failure), records: {} };
}
