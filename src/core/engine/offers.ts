import { isList, type Value } from "../expression";
import { findField, keptAs, type Field } from "../form";
import { stepKind } from "../kinds";
import { offerPlace, type Step } from "../route";
import type { StuckReason, Visit } from "./state";
import type { At, Turn } from "./turn";

/** Things that may be offered to be chosen from in one field. */
export const MOST_OFFERED = 1000;

/**
 * What can be chosen in the fields a step limits, fixed when people are asked: by field or column, values as they are
 * kept, in their order and each once.
 * @returns why it cannot be told, where there is too much
 * @throws Unclear where it cannot be worked out, or is nothing the field can hold
 */
export function offersAt(turn: Turn, at: At, step: Step): Pick<Visit, "offers"> | StuckReason {
  const asked = stepKind(turn.release.kinds, step).asks?.offers(step) ?? [];
  const offers: Record<string, string[]> = {};
  for (const o of asked) {
    const place = offerPlace(o.field);
    const field = findField(turn.release.definition.fields, o.field)?.field;
    const v = turn.value(at, place, o.of);
    const things = isList(v) ? v : [v];
    const kept = new Set<string>();
    for (const thing of things) {
      const one = keptThing(turn, field, thing);
      if (one === null) continue;
      if (typeof one !== "string") throw turn.unfit(at.step, place, o.of, one.why);
      kept.add(one);
      if (kept.size > MOST_OFFERED)
        return {
          code: "too-many-offered",
          data: { step: step.name, field: field?.name ?? o.field, limit: MOST_OFFERED },
        };
    }
    offers[o.field] = [...kept];
  }
  return asked.length > 0 ? { offers } : {};
}

/** As the field would keep it; null for nothing. */
function keptThing(turn: Turn, field: Field | undefined, v: Value): string | null | { why: string } {
  if (v === null) return null;
  if (!field) return { why: "The field it is offered in is not there." };
  // How many there must be is said of all that are picked, not of each.
  const { min: _, max: __, ...single } = field;
  const one = turn.release.kinds.fields[field.kind].many ? single : field;
  const r = keptAs(one, v, turn.release.kinds.fields, turn.facts);
  if ("why" in r) return r;
  return typeof r.kept === "string" ? r.kept : { why: `It is nothing to be chosen as “${field.name}”.` };
}
