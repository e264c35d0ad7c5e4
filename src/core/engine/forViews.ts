import type { Clause } from "../expression";
import type { Length } from "../calendar";
import type { Assignment, Limit, Rule } from "../route";
import { candidatesOf, peopleOf } from "./assign";
import { stepKind } from "../kinds";
import type { Effect } from "./effects";
import { lengthFor } from "./ladder";
import { stepTurn } from "./stepTurn";
import type { Candidate } from "./state";
import type { Turn } from "./turn";
import { clearly, type StuckHere } from "./unclear";

/** Who would be asked at a step as things stand, or why that cannot be said. */
export const whoWouldBeAsked = (turn: Turn, step: string, who: Assignment): Candidate[] | StuckHere =>
  clearly(() => candidatesOf(turn, step, who));

/** Whom a rule finds as things stand, or why that cannot be said. */
export const peopleFound = (turn: Turn, step: string, place: string, rule: Rule): string[] | StuckHere =>
  clearly(() => peopleOf(turn, step, place, rule));

/** How long a step would be given as things stand, or why that cannot be said. */
export const lengthGiven = (
  turn: Turn,
  step: string,
  limit: Limit,
): { length: Length; why: Clause[] } | StuckHere => clearly(() => lengthFor(turn, step, limit));

/** What a step would ask of the world as things stand; null where it asks for nothing. */
export function workAsked(turn: Turn, step: string): Effect | StuckHere | null {
  const s = turn.release.places.get(step)?.step;
  if (!s) return null;
  const next = clearly(() => stepKind(turn.release.kinds, s).enter(stepTurn(turn, step), s));
  if (next.go === "stuck") return next;
  return next.go === "waits" ? { ...next.work, id: "e0", step } : null;
}
