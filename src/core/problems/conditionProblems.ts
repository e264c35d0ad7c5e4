import { coverage, domainOf } from "../conditions";
import type { FormulaPlace, ProcessDefinition } from "../route";
import { place, type CheckCache, type Problem } from "./problem";

/** Conditions over one name that no value of it makes hold: `Total > 5 and Total < 3`. */
export function conditionProblems(
  d: ProcessDefinition,
  formulas: readonly FormulaPlace[],
  cache: CheckCache,
  out: Problem[],
) {
  for (const f of formulas) {
    if (f.type.t !== "yesno" || f.ofRecord || f.rowsOf !== null) continue;
    // A kind that chooses by conditions says it of its own, beside what the others leave over.
    if (f.inOrder) continue;
    const { ast, problems } = cache.check(f.formula, f.scope, f.signature, f.type);
    if (!ast || problems.length > 0) continue;
    if (ast.k === "bool") continue;
    const [never] = coverage([ast], (name) => domainOf(name, f.scope, d.fields)).never;
    if (never !== "alone") continue;
    out.push({
      severity: f.place.startsWith("check ") ? "error" : "warning",
      code: "never-holds",
      where: place(f.owner.kind, f.owner.kind === "process" ? d.key : f.owner.id, f.place),
      message: `Nothing makes ${f.formula} hold: ${f.says} is never met.`,
    });
  }
}
