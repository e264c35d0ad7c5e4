import type { FormProblem } from "@/core/form";

/** What is wrong at a field or a cell, by its path: also where that is but one of the places it is about. */
export const problemsAt = (problems: readonly FormProblem[], path: string): FormProblem[] =>
  problems.filter((p) => p.path === path || p.also?.includes(path));
