import { stepKind } from "../kinds";
import { isOpen, type Task } from "./state";
import type { Turn } from "./turn";

/** The task by which somebody has a vote in a visit already, beside the given one. */
export function voteOf(turn: Turn, of: Pick<Task, "visit"> & Partial<Pick<Task, "id">>, person: string) {
  const visit = turn.state.visits[of.visit];
  const step = visit ? turn.release.places.get(visit.step)?.step : undefined;
  const how = step ? stepKind(turn.release.kinds, step).asks?.who(step).how : undefined;
  // Where any of them may answer there is one task, which each may be handed.
  if (how === undefined || how === "one") return null;
  return (
    Object.values(turn.state.tasks).find(
      (t) =>
        t.visit === of.visit &&
        t.id !== of.id &&
        (t.status === "answered"
          ? t.by === person
          : isOpen(t) && t.candidates.some((c) => c.person === person)),
    ) ?? null
  );
}
