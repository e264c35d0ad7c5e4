import type { FormulaProblem } from "@/core/expression";

/** A name that is being typed, or a brace not closed yet, is not wrong yet: it is told without red. */
export const mistakeLook = (mistake: FormulaProblem, text: string): string =>
  (mistake.code === "unknown-name" || mistake.code === "syntax") && mistake.to >= text.trimEnd().length
    ? "text-soft"
    : "text-brick";
