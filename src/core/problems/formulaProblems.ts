import { braceMistakes } from "../expression";
import { isReadByName } from "../kinds";
import {
  accessAt,
  documentsUsed,
  laddersUsed,
  lettersUsed,
  START,
  templatePlaces,
  type Flow,
  type FormulaOwner,
  type FormulaPlace,
  type ProcessDefinition,
  type StepPlace,
  type Surrounding,
} from "../route";
import { inFormula, place, type CheckCache, type Problem } from "./problem";
import { settersOf } from "./settersOf";
import { fieldsToBeSigned } from "./signingProblems";

/** Mistakes in the formulas of starts, steps and texts, and fields read before anybody has filled them in. */
export function formulaProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  flow: Flow,
  around: Surrounding,
  formulas: readonly FormulaPlace[],
  cache: CheckCache,
  out: Problem[],
) {
  /** Whether a step stands in another: what that asks when its rounds end may read what came of it. */
  const isIn = (id: string, owner: string) =>
    places.get(id)?.owners.some((o) => o.step.id === owner) ?? false;
  const spot = (owner: FormulaOwner, at: string) =>
    place(owner.kind, owner.kind === "process" ? d.key : owner.id, at);
  for (const t of templatePlaces(d, around))
    for (const p of braceMistakes(t.template)) out.push(inFormula(spot(t.owner, t.place), t.template, p));
  const setBy = settersOf(d, places, around, accessAt(d, START));
  const letters = lettersUsed(d, around.kinds);
  const ladders = laddersUsed(d, around.kinds);
  const documents = documentsUsed(d, around.kinds);
  /** The steps at which a formula is worked out: of a letter those that send it, of a ladder those that go by it, of a template those that draw it up. */
  const readAt = ({ kind, id }: FormulaOwner): readonly string[] => {
    switch (kind) {
      case "letter":
        return letters.get(id) ?? [];
      case "ladder":
        return ladders.get(id) ?? [];
      case "document":
        return documents.get(id) ?? [];
      case "step":
        return [id];
      case "field":
      case "start":
      case "process":
        return [];
    }
  };
  const twice = namedTwice(places, around);
  const toSign = fieldsToBeSigned(places, around.kinds);
  for (const f of formulas) {
    // Those of fields are reported with the form, each with its own mend.
    if (f.owner.kind === "field") continue;
    const checked = cache.check(f.formula, f.scope, f.signature, f.type);
    const where = spot(f.owner, f.place);
    for (const p of checked.problems) out.push(inFormula(where, f.formula, p));
    if (!checked.ast || f.ofRecord) continue;
    for (const at of readAt(f.owner))
      for (const r of checked.reads.references) {
        const what = r.target.t === "name" ? f.declared(r.name) : null;
        if (what === null) continue;
        const say = (severity: Problem["severity"], code: string, message: string) =>
          out.push({ severity, code, where, message });
        if (what.startsWith("step ")) {
          if (twice.has(r.name))
            say(
              "error",
              "step-name-twice",
              `Two steps are called "${r.name}"; a formula cannot tell them apart.`,
            );
          const read = what.slice("step ".length);
          if (!flow.mayPrecedeInRound(read, at) && !isIn(read, at))
            say(
              "warning",
              "read-before-set",
              `What "${r.name}" came to is read here, but that step never comes before this one.`,
            );
        }
        const field = what.startsWith("field ") ? what.slice("field ".length) : null;
        if (field !== null && f.owner.kind === "document" && toSign.get(f.owner.id)?.has(field)) continue;
        const setters = field === null ? undefined : setBy.get(field);
        const before = (id: string) => flow.mayPrecede(id, at) || isIn(id, at);
        if (!setters || setters.some(before)) continue;
        say(
          "warning",
          "read-before-set",
          setters.length === 0
            ? `"${r.name}" is read here, but nobody can fill it in at any step.`
            : `"${r.name}" is read here, but is first filled in at step ${places.get(setters[0]!)!.number}.`,
        );
      }
  }
}

/** Names that more than one step has that formulas can read. */
function namedTwice(places: ReadonlyMap<string, StepPlace>, { kinds }: Surrounding): Set<string> {
  const names = [...places.values()].flatMap(({ step }) => (isReadByName(kinds, step) ? [step.name] : []));
  return new Set(names.filter((n, i) => names.indexOf(n) < i));
}
