import { stepKind, type Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";
import { placesOf } from "./tree";

/** By template the steps that draw something up from it. */
export function documentsUsed(
  d: Pick<ProcessDefinition, "route">,
  kinds: Kinds,
): ReadonlyMap<string, readonly string[]> {
  const out = new Map<string, string[]>();
  for (const { step } of placesOf(d, kinds).values())
    for (const id of new Set(stepKind(kinds, step).documents?.(step) ?? []))
      out.set(id, [...(out.get(id) ?? []), step.id]);
  return out;
}
