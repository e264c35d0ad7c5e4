import { stepKind } from "../kinds";
import { refusedTo } from "./bar";
import type { Command, Refusal } from "./commands";
import { isOpen, type RequestState, type Task } from "./state";
import type { Turn } from "./turn";

/** Why a task that is not open takes no answer. Where a colleague of the same visit answered, it names them. */
export function taskOver(s: RequestState, task: Task): Refusal {
  const other = Object.values(s.tasks).find((x) => x.visit === task.visit && x.status === "answered");
  const t = task.status === "closed" && other ? other : task;
  return {
    code: "already-answered",
    data: { by: t.by ?? null, answer: t.answer ?? null, at: t.endedAt ?? null },
  };
}

/** The task, when it is open and this person may answer it. */
export function openTask(turn: Turn, id: string, actor: string): Task | Refusal {
  const t = turn.state.tasks[id];
  if (!t) return { code: "unknown-task", data: { task: id } };
  if (!isOpen(t)) return taskOver(turn.state, t);
  if (!t.candidates.some((x) => x.person === actor)) return { code: "not-yours", data: { task: id } };
  if (t.holder !== null && t.holder !== actor) return { code: "taken-by-other", data: { by: t.holder } };
  // They may have answered another step since they were asked, which keeps them from this one.
  return keptApart(turn, t, actor) ?? t;
}

export function take(turn: Turn, c: Extract<Command, { type: "take" }>): Refusal | null {
  const t = openTask(turn, c.task, c.actor);
  if ("code" in t) return t;
  if (t.holder === c.actor) return null;
  if (t.candidates.length < 2) return { code: "not-shared", data: { task: t.id } };
  turn.raise({ type: "task taken", task: t.id });
  return null;
}

export function putBack(turn: Turn, c: Extract<Command, { type: "put back" }>): Refusal | null {
  const t = openTask(turn, c.task, c.actor);
  if ("code" in t) return t;
  if (t.candidates.length < 2 || t.status !== "taken") return { code: "not-shared", data: { task: t.id } };
  turn.raise({ type: "task put back", task: t.id });
  return null;
}

/** Why somebody who was asked may not answer any more. Who asked for the request was not asked to begin with. */
function keptApart(turn: Turn, t: Task, actor: string): Refusal | null {
  const step = turn.release.places.get(t.step)?.step;
  const who = step ? stepKind(turn.release.kinds, step).asks?.who(step) : undefined;
  if (!who?.never?.length) return null;
  const refused = refusedTo(turn, t, [actor]);
  return refused?.code === "own-request" ? null : refused;
}
