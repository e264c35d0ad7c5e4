import { isOutside } from "../form";
import { settle } from "./answer";
import { withCover } from "./assign";
import { refusedTo } from "./bar";
import type { Command, Refusal } from "./commands";
import type { Gone } from "./events";
import { isOpen, isQuestion, type Candidate, type Task } from "./state";
import { openTask, taskOver } from "./tasks";
import type { Turn } from "./turn";
import { voteOf } from "./voteOf";

export function handOver(turn: Turn, c: Extract<Command, { type: "hand over" }>): Refusal | null {
  const t = openTask(turn, c.task, c.actor);
  if ("code" in t) return t;
  // What is asked beside a task is said once, by whoever has it.
  if (!c.back || isQuestion(t)) return handTo(turn, t, c, t.back ?? []);
  if (turn.state.visits[t.visit]?.paper) return { code: "signs-for-good", data: { task: t.id } };
  return handTo(turn, t, c, [c.actor, ...(t.back ?? [])]);
}

/** The same by an owner of the process, of whoever's task it is: people leave, or are away with nobody to cover for them. */
export function reassign(turn: Turn, c: Extract<Command, { type: "reassign" }>): Refusal | null {
  const t = turn.state.tasks[c.task];
  if (!t) return { code: "unknown-task", data: { task: c.task } };
  if (!isOpen(t)) return taskOver(turn.state, t);
  if (c.note.trim() === "") return { code: "note-needed", data: { answer: "Hand over" } };
  // For good: whoever was to have it back may be why.
  return handTo(turn, t, c, []);
}

function handTo(
  turn: Turn,
  t: Task,
  c: { to: string; note: string; back?: boolean },
  back: readonly string[],
): Refusal | null {
  // Whoever does not work here is asked by the rules of a step, and nothing is passed on to them from hand to hand.
  if (c.to === t.holder || !turn.facts.isActive(c.to) || isOutside(c.to))
    return { code: "same-person", data: { person: c.to } };
  const to = withCover(turn, [c.to]);
  const refused = refusedTo(
    turn,
    t,
    to.map((x) => x.person),
  );
  if (refused) return refused;
  // Their one vote would be both of them, and nothing would come back.
  if (c.back && to.every((x) => voteOf(turn, t, x.person)))
    return { code: "same-person", data: { person: c.to } };
  moveTask(turn, t, to, { note: c.note, back });
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
  { back = [], ...how }: { note: string; rung?: string; gone?: Gone; back?: readonly string[] },
) {
  const fresh = to.filter((c) => !voteOf(turn, t, c.person));
  if (fresh.length > 0) {
    // Nobody gets back what they have.
    const others = back.filter((p) => !fresh.some((c) => c.person === p));
    const kept = others.length > 0 ? { back: others } : {};
    turn.raise({ type: "task handed over", task: t.id, to: fresh, ...how, ...kept });
    return;
  }
  const into = voteOf(turn, t, to[0]!.person);
  if (!into) return;
  turn.raise({ type: "task handed over", task: t.id, to: [...to], ...how });
  turn.raise({ type: "task closed", task: t.id, reason: "merged", into: into.id }, null);
  settle(turn, t.visit, "");
}
