import { checkFormula, type CheckedFormula } from "./check";
import { completionsAt, type Completions } from "./complete";
import type { FormulaProblem } from "./problem";
import type { Names } from "./run";
import { braceMistakes, formulaStart, templateParts } from "./template";
import { ANY, type Scope } from "./types";

export interface CheckedTemplate {
  /** In positions of the template; a mend is the whole template put right. */
  problems: FormulaProblem[];
  parts: { formula: string; from: number; checked: CheckedFormula }[];
}

/** Checks the braces of a template and every formula in them. */
export function checkTemplate(template: string, scope: Scope): CheckedTemplate {
  const parts = templateParts(template).flatMap((p) =>
    "formula" in p && p.formula
      ? [{ formula: p.formula, from: p.from, to: p.to, checked: checkFormula(p.formula, scope, ANY) }]
      : [],
  );
  const inside = parts.flatMap(({ from, to, checked }) =>
    checked.problems.map((p) => ({
      ...p,
      from: p.from + from,
      to: p.to + from,
      ...(p.mend
        ? { mend: { ...p.mend, insert: template.slice(0, from) + p.mend.insert + template.slice(to) } }
        : {}),
    })),
  );
  return { parts, problems: [...braceMistakes(template), ...inside].sort((a, b) => a.from - b.from) };
}

/** What can be written at a place of a template: names and functions in braces, nothing in plain text. */
export function templateCompletions(
  template: string,
  caret: number,
  scope: Scope,
  names: Names | null,
): Completions & { formula: string } {
  const from = formulaStart(template, caret);
  if (from === null) return { from: caret, options: [], formula: "" };
  const formula = template.slice(from, caret);
  const found = completionsAt(formula, formula.length, scope, ANY, names);
  return { ...found, from: found.from + from, formula };
}
