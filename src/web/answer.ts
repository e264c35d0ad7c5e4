import "server-only";
import type { FormProblem } from "@/core/form";
import { sentenceOf, type Outcome } from "@/services";

/** What a server action gives a page: the value, or a sentence (and the fields it is about). */
export type Answer<T> =
  { ok: true; value: T } | { ok: false; sentence: string; problems: FormProblem[]; code: string };

export async function answerOf<T>(outcome: Outcome<T>): Promise<Answer<T>> {
  if (outcome.ok) return outcome;
  const f = outcome.failure;
  const problems = f.code === "refused" && f.data.code === "form" ? f.data.data.problems : [];
  return {
    ok: false,
    sentence: await sentenceOf(f),
    problems,
    code: f.code === "refused" ? f.data.code : f.code,
  };
}
