import { refusedTo } from "./bar";
import type { Command, Refusal } from "./commands";
import { dutiesAt } from "./dutiesAt";
import { moveTask } from "./handOver";
import { isOfStep, isOpen } from "./state";
import { taskOver } from "./tasks";
import type { Turn } from "./turn";

/** Whoever was away is back, and has again what is with their cover; others who are asked with them stay so. */
export function takeBack(turn: Turn, c: Extract<Command, { type: "take back" }>): Refusal | null {
  const t = turn.state.tasks[c.task];
  if (!t) return { code: "unknown-task", data: { task: c.task } };
  if (!isOpen(t)) return taskOver(turn.state, t);
  const covers = t.candidates.filter((x) => x.for === c.actor).map((x) => x.person);
  if (covers.length === 0) return { code: "not-yours", data: { task: t.id } };
  // A colleague who was asked with them has taken it: that is no cover of theirs.
  if (t.holder !== null && !covers.includes(t.holder))
    return { code: "taken-by-other", data: { by: t.holder } };
  const refused = refusedTo(turn, t, [c.actor]);
  if (refused) return refused;
  const step = isOfStep(t) ? turn.release.places.get(t.step)?.step : undefined;
  const duty = step && dutiesAt(turn, turn.at(t.token, t.step), step).get(c.actor);
  const { facts } = turn;
  if (facts.coverFor(c.actor, duty) !== null && !facts.keepsOpen(c.actor))
    return { code: "still-away", data: { person: c.actor } };
  const others = t.candidates.filter((x) => x.for !== c.actor && x.person !== c.actor);
  moveTask(turn, t, [{ person: c.actor }, ...others], { note: "", back: t.back ?? [] });
  return null;
}
