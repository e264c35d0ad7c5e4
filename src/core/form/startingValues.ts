import { environment, evaluate, type FormulaProblem, type Names } from "../expression";
import type { AccessOf } from "./access";
import type { FormProgram } from "./compileForm";
import { evaluateForm } from "./evaluate";
import type { Facts } from "./facts";
import { flatFields, takesIn, type Field, type FormData, type Stored } from "./field";
import type { FormProblem } from "./formProblem";
import { keptAs } from "./keptAs";

const isEmpty = (v: Stored | undefined): boolean => v === undefined || v === null || v === "";

/**
 * What fields begin with for which nothing was handed over. Each reads what was, and none what another begins with, so
 * that their order does not matter.
 * @param data what was handed over, by field
 * @returns the data with them, or why one cannot be told
 */
export function startingValues(
  program: FormProgram,
  data: FormData,
  access: AccessOf,
  facts: Facts,
  extra: Names,
): { data: FormData } | { problems: FormProblem[] } {
  const begins = (f: Field) => f.starting !== undefined && takesIn(f) && isEmpty(data[f.id]);
  const fields = flatFields(program.fields).filter(begins);
  if (fields.length === 0) return { data };
  const { names } = evaluateForm(program, data, access, facts, extra);
  const out: Record<string, Stored> = { ...data };
  const problems: FormProblem[] = [];
  for (const f of fields) {
    const formula = program.byId.get(f.id)?.starting;
    const notes: FormulaProblem[] = [];
    const v = formula ? evaluate(formula, { ...environment(names, facts), notes }) : null;
    const failed = notes.find((n) => n.code !== "was-empty");
    const r = failed ? { why: failed.message } : keptAs(f, v, program.kinds, facts);
    if ("why" in r) problems.push({ code: "unclear", path: f.id, data: { field: f.name, why: r.why } });
    else out[f.id] = r.kept;
  }
  return problems.length > 0 ? { problems } : { data: out };
}
