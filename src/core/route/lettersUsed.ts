import { rungKind, stepKind, type Kinds } from "../kinds";
import type { ProcessDefinition, Step } from "./definition";
import { rungsOfStep } from "./laddersUsed";
import { placesOf } from "./tree";

/** The letters a step sends: by what it does, by how it asks, and by the rungs of its limit. */
export function lettersOf(step: Step, ladders: ProcessDefinition["ladders"], kinds: Kinds): string[] {
  const { asks, letters } = stepKind(kinds, step);
  const rungs = rungsOfStep(step, ladders, kinds);
  return [
    ...(letters?.(step) ?? []),
    asks?.byMail(step)?.letter,
    ...rungs.map((r) => rungKind(kinds, r.action).letter?.(r.action)),
  ].filter((id): id is string => id !== undefined);
}

/** By letter the steps that send it. */
export function lettersUsed(
  d: Pick<ProcessDefinition, "route" | "ladders">,
  kinds: Kinds,
): ReadonlyMap<string, readonly string[]> {
  const out = new Map<string, string[]>();
  for (const { step } of placesOf(d, kinds).values())
    for (const letter of new Set(lettersOf(step, d.ladders, kinds)))
      out.set(letter, [...(out.get(letter) ?? []), step.id]);
  return out;
}
