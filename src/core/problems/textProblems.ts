import { findField, type AccessOf } from "../form";
import { stepKind, type Kinds } from "../kinds";
import {
  accessAt,
  documentsUsed,
  lettersUsed,
  START,
  type FormulaOwner,
  type FormulaPlace,
  type ProcessDefinition,
  type Rule,
  type Step,
  type StepPlace,
} from "../route";
import { fieldsTold } from "./fieldsTold";
import { place, type CheckCache, type Problem } from "./problem";
import { rulesOnly } from "./rulesOnly";

/** Texts that tell what is hidden from those who read them: a title stands in everybody's lists. */
export function textProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  formulas: readonly FormulaPlace[],
  cache: CheckCache,
  kinds: Kinds,
  out: Problem[],
) {
  const steps = [START, ...places.keys()];
  const letters = lettersUsed(d, kinds);
  const documents = documentsUsed(d, kinds);
  const known = new Map<string, AccessOf>();
  const access = (step: string): AccessOf => {
    let at = known.get(step);
    if (!at) known.set(step, (at = accessAt(d, step)));
    return at;
  };
  const hiddenAt = (id: string, at: readonly string[]) => at.find((step) => access(step)(id) === "hide");
  for (const f of formulas) {
    // All of a letter is read by whoever gets it.
    if (!f.inText && f.owner.kind !== "letter" && f.owner.kind !== "document") continue;
    const { ast, reads } = cache.check(f.formula, f.scope, f.signature, f.type);
    if (!ast) continue;
    // A title is for everybody; who a message goes to is known where it goes to the requester, who sees what a start shows.
    const told = (senders: readonly string[]) =>
      senders.flatMap((id) => {
        const step = places.get(id)?.step;
        return step ? toldAt(step, kinds) : [];
      });
    /** What is drawn up is opened wherever a field that keeps it is seen. */
    const opened = (makers: readonly string[]) => {
      const kept = makers.flatMap((id) => stepKind(kinds, places.get(id)!.step).sets(places.get(id)!.step));
      return steps.filter((step) => kept.some((id) => access(step)(id) !== "hide"));
    };
    const readersOf = ({ kind, id }: FormulaOwner): readonly string[] => {
      switch (kind) {
        case "letter":
          return told(letters.get(id) ?? []);
        // As of the rungs of a step: whom they tell is not known before they do.
        case "ladder":
          return [];
        case "document":
          return opened(documents.get(id) ?? []);
        case "step": {
          const step = places.get(id)?.step;
          return step && stepKind(kinds, step).draws?.(step).includes(f.place) ? opened([id]) : told([id]);
        }
        case "field":
        case "start":
        case "process":
          return steps;
      }
    };
    const readers = readersOf(f.owner);
    for (const id of fieldsTold(f, reads, d.fields)) {
      const hidden = hiddenAt(id, readers);
      const name = findField(d.fields, id)?.field.name;
      if (hidden === undefined || name === undefined) continue;
      const where = hidden === START ? "at the start" : `at step ${places.get(hidden)!.number}`;
      out.push({
        severity: "warning",
        code: "hidden-in-text",
        where: place(f.owner.kind, f.owner.kind === "process" ? d.key : f.owner.id, f.place),
        message: `"${name}" is hidden ${where}, but ${f.says} tells it.`,
      });
      break;
    }
  }
}

/** Steps that show as much as whoever a message goes to may see; none where it is not known who that is. */
function toldAt(step: Step, kinds: Kinds): string[] {
  const kind = stepKind(kinds, step);
  if (kind.asks) return [];
  let toRequester = false;
  const look = (at: string, r: Rule) => (toRequester ||= at === "who" && r.by === "requester");
  kind.formulas(step, rulesOnly(look, kinds));
  return toRequester ? [START] : [];
}
