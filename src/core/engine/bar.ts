import { isOwnRequest } from "../form";
import { neverPlace, stepKind } from "../kinds";
import type { Assignment } from "../route";
import { NOBODY_BARRED, peopleOf, type Bar } from "./assign";
import type { Refusal } from "./commands";
import type { Task } from "./state";
import type { At, Turn } from "./turn";
import { Unclear } from "./unclear";

/**
 * Who may not be asked at a step: who asked for the request (see `isOwnRequest`), unless it says so, and whom its rules of
 * who never is find.
 * @throws Unclear where one of those rules cannot be worked out: it keeps nobody apart by that, and lets nobody through
 */
export function barAt(turn: Turn, at: At, who: Assignment): Bar {
  const apart = new Set((who.never ?? []).flatMap((r, i) => peopleOf(turn, at, neverPlace(i), r)));
  const { requester } = turn.state;
  return (person) => {
    const own = () => isOwnRequest(requester, { id: person, email: turn.facts.emailOf(person) });
    if (who.requesterToo !== true && own()) return "own-request";
    return apart.has(person) ? "kept-apart" : null;
  };
}

/** The same for a task; changes are the requester's to make. */
export function barFor(turn: Turn, t: Pick<Task, "purpose" | "step" | "token">): Bar {
  const step = turn.release.places.get(t.step)?.step;
  const who =
    step && t.purpose !== "changes" ? stepKind(turn.release.kinds, step).asks?.who(step) : undefined;
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
