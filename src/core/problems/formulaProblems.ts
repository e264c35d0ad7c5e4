import { braceMistakes } from "../expression";
import { flatFields } from "../form";
import { stepKind } from "../kinds";
import {
  START,
  templatePlaces,
  type FormulaOwner,
  type FormulaPlace,
  type ProcessDefinition,
  type StepPlace,
  type Surrounding,
} from "../route";
import { inFormula, place, type CheckCache, type Problem } from "./problem";

/** Mistakes in the formulas of starts, steps and texts, and fields read before anybody has filled them in. */
export function formulaProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  around: Surrounding,
  formulas: readonly FormulaPlace[],
  cache: CheckCache,
  out: Problem[],
) {
  const spot = (owner: FormulaOwner, at: string) =>
    place(owner.kind, owner.kind === "process" ? d.key : owner.id, at);
  for (const t of templatePlaces(d, around))
    for (const p of braceMistakes(t.template)) out.push(inFormula(spot(t.owner, t.place), t.template, p));
  const order = new Map([...places.keys()].map((id, i) => [id, i]));
  const firstSet = firstSetting(d, places, around);
  for (const f of formulas) {
    // Those of fields are reported with the form, each with its own mend.
    if (f.owner.kind === "field") continue;
    const checked = cache.check(f.formula, f.scope, f.signature, f.type);
    const where = spot(f.owner, f.place);
    for (const p of checked.problems) out.push(inFormula(where, f.formula, p));
    if (!checked.ast || f.owner.kind !== "step" || f.ofRecord) continue;
    const here = order.get(f.owner.id) ?? -1;
    for (const r of checked.reads.references) {
      const set = r.target.t === "name" ? firstSet.get(f.declared(r.name) ?? "") : undefined;
      if (!set || here > set.index) continue;
      out.push({
        severity: "warning",
        code: "read-before-set",
        where,
        message:
          set.index === Infinity
            ? `"${r.name}" is read here, but nobody can fill it in at any step.`
            : `"${r.name}" is read here, but is first filled in at step ${places.get(set.step)!.number}.`,
      });
    }
  }
}

/** By field, as a formula declares it: the first step that gives the field a value, for fields that are empty after the start. */
function firstSetting(d: ProcessDefinition, places: ReadonlyMap<string, StepPlace>, { kinds }: Surrounding) {
  const order = [...places.keys()];
  const out = new Map<string, { step: string; index: number }>();
  for (const f of flatFields(d.fields)) {
    if (f.worked || (d.access[START]?.[f.id] ?? "edit") === "edit") continue;
    const index = order.findIndex((id) => {
      const { step } = places.get(id)!;
      return d.access[id]?.[f.id] === "edit" || stepKind(kinds, step).sets(step).includes(f.id);
    });
    out.set(`field ${f.id}`, index < 0 ? { step: "", index: Infinity } : { step: order[index]!, index });
  }
  return out;
}
