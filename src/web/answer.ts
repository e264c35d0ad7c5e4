import "server-only";
import type { AnewChange } from "@/core/engine";
import type { FormProblem } from "@/core/form";
import { sentenceOf, type Failure, type Outcome } from "@/services";

/** What a server action gives a page: the value, or a sentence (and the fields it is about). */
export type Answer<T> = { ok: true; value: T } | AnswerRefused;
export interface AnswerRefused {
  ok: false;
  sentence: string;
  problems: FormProblem[];
  code: string;
  /** What an answer would read anew, to be seen before it counts. */
  anew?: AnewSeen;
}
/** Values that come to be others by being read anew, and names of those that cannot be read. */
export interface AnewSeen {
  changes: AnewChange[];
  stays: string[];
}

function problemsOf(f: Failure): FormProblem[] {
  if (f.code === "refused" && f.data.code === "form") return f.data.data.problems;
  return f.code === "record-refused" && f.data.why.code === "form" ? f.data.why.problems : [];
}
function codeOf(f: Failure): string {
  if (f.code === "refused") return f.data.code;
  return f.code === "record-refused" ? f.data.why.code : f.code;
}

export async function answerOf<T>(outcome: Outcome<T>): Promise<Answer<T>> {
  if (outcome.ok) return outcome;
  const f = outcome.failure;
  const problems = problemsOf(f);
  return {
    ok: false,
    sentence: await sentenceOf(f),
    problems,
    code: codeOf(f),
    ...(f.code === "refused" && f.data.code === "read-anew"
      ? { anew: { changes: f.data.data.changes, stays: f.data.data.stays } }
      : {}),
  };
}
