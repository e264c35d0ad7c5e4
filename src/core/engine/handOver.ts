import { stepKind } from "../kinds";
import { settle } from "./answer";
import { withCover } from "./assign";
import { refusedTo } from "./bar";
import type { Command, Refusal } from "./commands";
import type { Gone } from "./events";
import { isOpen, type Candidate, type Task } from "./state";
import { openTask, taskOver } from "./tasks";
import type { Turn } from "./turn";

export function handOver(turn: Turn, c: Extract<Command, { type: "hand over" }>): Refusal | null {
  const t = openTask(turn, c.task, c.actor);
  return "code" in t ? t : handTo(turn, t, c);
}

/** The same by an owner of the process, of whoever's task it is: people leave, or are away with nobody to cover for them. */
export function reassign(turn: Turn, c: Extract<Command, { type: "reassign" }>): Refusal | null {
  const t = turn.state.tasks[c.task];
  if (!t) return { code: "unknown-task", data: { task: c.task } };
  if (!isOpen(t)) return taskOver(turn.state, t);
  if (c.note.trim() === "") return { code: "note-needed", data: { answer: "Hand over" } };
  return handTo(turn, t, c);
}

function handTo(turn: Turn, t: Task, c: { to: string; note: string }): Refusal | null {
  if (c.to === t.holder || !turn.facts.isActive(c.to)) return { code: "same-person", data: { person: c.to } };
  const to = withCover(turn, [c.to]);
  const refused = refusedTo(
    turn,
    t,
    to.map((x) => x.person),
  );
  if (refused) return refused;
  moveTask(turn, t, to, { note: c.note });
  return null;
}

/**
 * Gives a task to others. One person has one vote: where all of them have one in this visit already, the task is merged
 * into theirs, and fewer are asked from then on, which may settle it.
 */
export function moveTask(
  turn: Turn,
  t: Task,
  to: readonly Candidate[],
  how: { note: string; rung?: string; gone?: Gone },
) {
  const fresh = to.filter((c) => !voteOf(turn, t, c.person));
  if (fresh.length > 0) {
    turn.raise({ type: "task handed over", task: t.id, to: fresh, ...how });
    return;
  }
  const into = voteOf(turn, t, to[0]!.person);
  if (!into) return;
  turn.raise({ type: "task handed over", task: t.id, to: [...to], ...how });
  turn.raise({ type: "task closed", task: t.id, reason: "merged", into: into.id }, null);
  settle(turn, t.visit, "");
}

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
