import { environment, evaluate, type FormulaProblem, type Names } from "../expression";
import type { AccessOf } from "./access";
import type { FormProgram } from "./compileForm";
import { evaluateForm } from "./evaluate";
import type { Facts } from "./facts";
import { flatFields, labelOf, type Field, type FormData, type Stored } from "./field";
import type { FormProblem } from "./formProblem";
import { keptAs } from "./keptAs";

const isEmpty = (v: Stored | undefined): boolean => v === undefined || v === null || v === "";

/**
 * What fields begin with for which nothing is there yet: nothing was handed over, or nobody has filled in anything. Each
 * reads what is there, and none what another begins with, so that their order does not matter.
 * @param data what was handed over, or came along, by field
 * @returns the data with them, and of those that cannot be told why; these stay empty
 */
export function startingValues(
  program: FormProgram,
  data: FormData,
  access: AccessOf,
  facts: Facts,
  extra: Names,
): { data: FormData; problems: FormProblem[] } {
  const begins = (f: Field) => f.starting !== undefined && access(f.id) === "edit" && isEmpty(data[f.id]);
  const fields = flatFields(program.fields).filter(begins);
  if (fields.length === 0) return { data, problems: [] };
  const { names } = evaluateForm(program, data, access, facts, extra, {});
  const out: Record<string, Stored> = { ...data };
  const problems: FormProblem[] = [];
  for (const f of fields) {
    const formula = program.byId.get(f.id)?.starting;
    const notes: FormulaProblem[] = [];
    const v = formula ? evaluate(formula, { ...environment(names, facts), notes }) : null;
    const failed = notes.find((n) => n.code !== "was-empty");
    const r = failed ? { why: failed.message } : keptAs(f, v, program.kinds, facts);
    if ("why" in r) problems.push({ code: "unclear", path: f.id, data: { field: labelOf(f), why: r.why } });
    else out[f.id] = r.kept;
  }
  return { data: out, problems };
}
