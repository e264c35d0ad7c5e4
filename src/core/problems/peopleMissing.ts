import type { Kinds, OfficeFacts } from "../kinds";
import { placesOf, type ProcessDefinition } from "../route";
import { askProblems } from "./askProblems";
import type { Problem } from "./problem";

/** A step, or a ladder, that would ask nobody as the office is now. */
export interface PeopleMissing {
  /** What it is called, with its number where it is a step. */
  where: string;
  message: string;
}

/**
 * What is wrong by now with whom a process asks, though nothing was when it was released: a duty nobody holds any more, a
 * group without anybody, somebody who has left.
 */
export function peopleMissing(d: ProcessDefinition, kinds: Kinds, office: OfficeFacts): PeopleMissing[] {
  const places = placesOf(d, kinds);
  const out: Problem[] = [];
  askProblems(d, places, kinds, office, out);
  return out.flatMap(({ severity, where, message }) => {
    if (severity !== "error") return [];
    const at = places.get(where.id);
    const ladder = d.ladders?.find((l) => l.id === where.id);
    const named = at ? `${at.number} ${at.step.name}` : (ladder?.name ?? where.id);
    return [{ where: named, message }];
  });
}
