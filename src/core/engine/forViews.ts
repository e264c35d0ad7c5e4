import type { WorkingCalendar } from "../calendar";
import type { Names } from "../expression";
import type { Assignment, Limit, Rule } from "../route";
import { peopleOf } from "./assign";
import { candidatesOf, rulesTried, type RuleTried } from "./candidates";
import { stepKind } from "../kinds";
import type { Effect } from "./effects";
import { composeDocument, type ComposedDocument } from "./composeDocument";
import { composeLetter, type Composed } from "./composeLetter";
import { dueFor, type Reached } from "./dueFor";
import { stepTurn } from "./stepTurn";
import type { Candidate } from "./state";
import { Turn, type At } from "./turn";
import { clearly, type StuckHere } from "./unclear";

/** Who would be asked at a step as things stand, or why that cannot be said. */
export const whoWouldBeAsked = (turn: Turn, at: At, who: Assignment): Candidate[] | StuckHere =>
  clearly(() => candidatesOf(turn, at, who));

/** The rules that are tried for that, with what becomes of each whom they find. */
export const whyAsked = (turn: Turn, at: At, who: Assignment): RuleTried[] | StuckHere =>
  clearly(() => rulesTried(turn, at, who));

/** Whom a rule finds as things stand, or why that cannot be said. */
export const peopleFound = (turn: Turn, at: At, place: string, rule: Rule): string[] | StuckHere =>
  clearly(() => peopleOf(turn, at, place, rule));

/**
 * A letter as it would be sent as things stand, or why that cannot be said.
 * @param how `inked`: it is to be seen what was filled in; `language`: in that one, whatever the letter says
 */
export const letterWritten = (
  turn: Turn,
  at: At,
  id: string,
  how: { inked?: boolean; language?: string } = {},
): Composed | StuckHere => clearly(() => composeLetter(turn, at, id, how));

/** A document as it would be drawn up as things stand, gaps where something cannot be worked out; or why it cannot be. */
export const documentWritten = (turn: Turn, at: At, id: string): ComposedDocument | StuckHere =>
  clearly(() => composeDocument(turn, at, id, true));

/** The names of the first thing of a list that a step goes through as things stand; null where there is none to be told. */
export function firstThing(turn: Turn, at: At, place: string, formula: string): Names | null {
  const all = clearly(() => stepTurn(turn, at).each(place, formula));
  return "go" in all ? null : (all[0] ?? null);
}

/** When a limit would be reached as things stand, or why that cannot be said. */
export const limitReached = (
  turn: Turn,
  at: At,
  limit: Limit,
  calendar: WorkingCalendar,
): Reached | StuckHere => clearly(() => dueFor(turn, at, limit, calendar));

/** Until when a step would sleep as things stand, in epoch milliseconds; null where it does not. */
export function sleepsUntil(
  turn: Turn,
  at: At,
): { until: number | null; awaits: boolean } | StuckHere | null {
  const s = turn.release.places.get(at.step)?.step;
  if (!s) return null;
  // On a turn of its own: what it does when it is entered has not happened.
  const aside = new Turn(turn.release, turn.state, turn.facts, turn.actor);
  const next = clearly(() => stepKind(turn.release.kinds, s).enter(stepTurn(aside, at), s));
  if (next.go === "stuck") return next;
  return next.go === "sleeps" ? { until: next.until, awaits: next.awaits === true } : null;
}

/** What a step would ask of the world as things stand; null where it asks for nothing. */
export function workAsked(turn: Turn, at: At): Effect | StuckHere | null {
  const s = turn.release.places.get(at.step)?.step;
  if (!s) return null;
  const next = clearly(() => stepKind(turn.release.kinds, s).enter(stepTurn(turn, at), s));
  if (next.go === "stuck") return next;
  return next.go === "waits"
    ? { ...next.work, id: "e0", step: at.step, ...(at.scope === null ? {} : { scope: at.scope }) }
    : null;
}
