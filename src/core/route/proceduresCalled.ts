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

/** Keys of the procedures a definition hands to, and of the processes it starts requests of, with the steps that do. */
export function handsOver(d: Pick<ProcessDefinition, "route">, kinds: Kinds): { to: string; step: string }[] {
  const begun = [...placesOf(d, kinds).values()].flatMap(({ step }) => {
    const to = stepKind(kinds, step).begins?.to(step);
    return to ? [{ to, step: step.id }] : [];
  });
  return [...proceduresCalled(d, kinds).map((c) => ({ to: c.procedure, step: c.step })), ...begun];
}
