import type { Clause } from "../expression";
import type { Length } from "../calendar";
import type { Assignment, Limit, Rule } from "../route";
import { candidatesOf, peopleOf } from "./assign";
import { lengthFor } from "./ladder";
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
