import { checkFormula, YESNO, type FormulaProblem, type Node, type Scope, type Type } from "../expression";
import { walkFields, type Field } from "./field";
import { columnScope, fieldType, formScope, REQUEST_SCOPE, type Registers } from "./formScope";

export type FormulaPlace = "needed" | "shown" | "worked" | `check ${number}`;

/** A form with its formulas parsed: plain JSON, made once per release on the server and sent to browsers. */
export interface PreparedForm {
  fields: readonly Field[];
  /** By field id, then place. A formula with a mistake is absent. */
  programs: Readonly<Record<string, Readonly<Partial<Record<FormulaPlace, Node>>>>>;
}

export interface FieldFormulaProblem {
  field: string;
  place: FormulaPlace;
  formula: string;
  problem: FormulaProblem;
}

/** The formulas of one field with the type each must come to. */
export function fieldFormulas(
  f: Field,
  registers: Registers,
): { place: FormulaPlace; formula: string; type: Type }[] {
  const out: { place: FormulaPlace; formula: string; type: Type }[] = [];
  if (f.needed) out.push({ place: "needed", formula: f.needed, type: YESNO });
  if (f.shown) out.push({ place: "shown", formula: f.shown, type: YESNO });
  if (f.worked) out.push({ place: "worked", formula: f.worked, type: fieldType(f, registers) });
  f.checks?.forEach((c, i) => out.push({ place: `check ${i}`, formula: c.must, type: YESNO }));
  return out;
}

/** The names a field's formulas may read: inside lines, the row's own columns come first. */
export function scopeOfField(
  fields: readonly Field[],
  parents: readonly Field[],
  registers: Registers,
  outer: Scope = {},
): Scope {
  const lines = parents.find((p) => p.kind === "lines");
  return {
    ...REQUEST_SCOPE,
    ...outer,
    ...formScope(fields, registers),
    ...(lines ? columnScope(lines, registers) : {}),
  };
}

/** Parses and checks every formula of a form. */
export function prepareForm(
  fields: readonly Field[],
  registers: Registers,
): { form: PreparedForm; problems: FieldFormulaProblem[] } {
  const programs: Record<string, Partial<Record<FormulaPlace, Node>>> = {};
  const problems: FieldFormulaProblem[] = [];
  // One scope object per table, because the parser set up for a set of names is kept per object.
  const scopes = new Map<string, Scope>();
  walkFields(fields, (f, parents) => {
    const lines = parents.find((p) => p.kind === "lines")?.id ?? "";
    if (!scopes.has(lines)) scopes.set(lines, scopeOfField(fields, parents, registers));
    for (const { place, formula, type } of fieldFormulas(f, registers)) {
      const checked = checkFormula(formula, scopes.get(lines)!, type);
      for (const problem of checked.problems) problems.push({ field: f.id, place, formula, problem });
      if (checked.ast && checked.problems.length === 0) (programs[f.id] ??= {})[place] = checked.ast;
    }
  });
  return { form: { fields, programs }, problems };
}
