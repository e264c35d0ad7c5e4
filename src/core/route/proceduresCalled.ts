import { stepKind, type Called, type Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";
import { placesOf } from "./tree";

/** The procedures a definition hands to, with the steps that do. */
export function proceduresCalled(
  d: Pick<ProcessDefinition, "route">,
  kinds: Kinds,
): (Called & { step: string })[] {
  return [...placesOf(d, kinds).values()].flatMap(({ step }) => {
    const to = stepKind(kinds, step).calls?.to(step);
    return to ? [{ ...to, step: step.id }] : [];
  });
}
