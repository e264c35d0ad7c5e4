import { stepKind, type Kinds } from "../kinds";
import type { Rung } from "./asking";
import type { ProcessDefinition, Step } from "./definition";
import { placesOf } from "./tree";

/** The ladder kept by name that the limit of a step goes by; undefined for rungs of its own, or none. */
export const ladderOf = (step: Step, kinds: Kinds): string | undefined =>
  stepKind(kinds, step).asks?.limit(step)?.ladder;

/** The rungs of a step's limit, its own or those of the ladder it goes by. */
export function rungsOfStep(
  step: Step,
  ladders: ProcessDefinition["ladders"],
  kinds: Kinds,
): readonly Rung[] {
  const limit = stepKind(kinds, step).asks?.limit(step);
  if (limit?.ladder === undefined) return limit?.rungs ?? [];
  return ladders?.find((l) => l.id === limit.ladder)?.rungs ?? [];
}

/** By ladder the steps whose limits go by it. */
export function laddersUsed(
  d: Pick<ProcessDefinition, "route">,
  kinds: Kinds,
): ReadonlyMap<string, readonly string[]> {
  const out = new Map<string, string[]>();
  for (const { step } of placesOf(d, kinds).values()) {
    const ladder = ladderOf(step, kinds);
    if (ladder !== undefined) out.set(ladder, [...(out.get(ladder) ?? []), step.id]);
  }
  return out;
}
