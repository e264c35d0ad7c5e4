import type { FormProblem } from "@/core/form";
import { formProblemSentence } from "@/core/words";

/** What is wrong at a field or a cell, by its path: also where that is but one of the places it is about. */
export const problemsAt = (problems: readonly FormProblem[], path: string): FormProblem[] =>
  problems.filter((p) => p.path === path || p.also?.includes(path));

/** What is said where something is wrong: the sentences, and that some of it may be passed. */
export const saidOf = (found: readonly FormProblem[]): string =>
  found
    .map(formProblemSentence)
    .concat(found.some((p) => p.pass !== undefined) ? ["You may go on all the same: say why below."] : [])
    .join(" ");
