import { tooLarge, type FormData, type FormProblem } from "@/core/form";
import { formProblemSentence } from "@/core/words";
import type { FormSource } from "./useEvaluation";

/** Why a form cannot go to the server as it is, in a sentence, and where; null where it can. */
export function wontGo(
  { form }: Pick<FormSource, "form">,
  data: FormData,
): { ok: false; sentence: string; problems: FormProblem[] } | null {
  const problem = tooLarge(form.fields, data);
  return (
    problem && {
      ok: false,
      sentence: `${formProblemSentence(problem)} It stays here as it is, and goes on once it is shorter.`,
      problems: [problem],
    }
  );
}
