import { isOwnRequest } from "../form";
import { neverPlace, stepKind } from "../kinds";
import type { Assignment } from "../route";
import { NOBODY_BARRED, peopleOf, type Bar } from "./assign";
import type { Refusal } from "./commands";
import { isOfStep, type Task } from "./state";
import type { At, Turn } from "./turn";
import { Unclear } from "./unclear";

/** Whether somebody asked for the request; see `isOwnRequest`. */
export const isOwn = (turn: Turn, person: string): boolean =>
  isOwnRequest(turn.state.requester, { id: person, email: turn.facts.emailOf(person) });

/**
 * Who may not be asked at a step: who asked for the request (see `isOwnRequest`), unless it says so, and whom its rules of
 * who never is find.
 * @throws Unclear where one of those rules cannot be worked out: it keeps nobody apart by that, and lets nobody through
 */
export function barAt(turn: Turn, at: At, who: Assignment): Bar {
  const apart = new Set((who.never ?? []).flatMap((r, i) => peopleOf(turn, at, neverPlace(i), r)));
  return (person) => {
    if (who.requesterToo !== true && isOwn(turn, person)) return "own-request";
    return apart.has(person) ? "kept-apart" : null;
  };
}

/**
 * The same for a task; changes are the requester's to make, and questions to them theirs to answer. Anybody else may give
 * advice: they see what the step shows, which the requester may not.
 */
export function barFor(turn: Turn, t: Pick<Task, "purpose" | "step" | "token">): Bar {
  if (t.purpose === "advice") return (person) => (isOwn(turn, person) ? "own-request" : null);
  const step = turn.release.places.get(t.step)?.step;
  const who = step && isOfStep(t) ? stepKind(turn.release.kinds, step).asks?.who(step) : undefined;
  return who ? barAt(turn, turn.at(t.token, t.step), who) : NOBODY_BARRED;
}

/** Why somebody cannot be given a task, or answer it; null where they may. */
export function refusedTo(
  turn: Turn,
  t: Pick<Task, "purpose" | "step" | "token">,
  people: readonly string[],
): Refusal | null {
  try {
    const bar = barFor(turn, t);
    const person = people.find((p) => bar(p) !== null);
    return person === undefined ? null : { code: bar(person)!, data: { person } };
  } catch (e) {
    if (!(e instanceof Unclear)) throw e;
    return { code: "apart-unclear", data: { step: turn.release.places.get(t.step)?.step.name ?? t.step } };
  }
}
