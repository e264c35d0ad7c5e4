import { inCall, taskOutside } from "./callIds";
import { NEW_REQUEST, type RequestState, type Task, type Timer } from "./state";

/** Tasks and timers that came, changed or went: data for whoever keeps lists of them. */
export interface Projections {
  tasks: Task[];
  setTimers: Timer[];
  clearTimers: string[];
}

/** What has changed of a request's tasks and timers between two states, those in procedures too. */
export function projections(before: RequestState, after: RequestState): Projections {
  const out: Projections = {
    tasks: Object.values(after.tasks).filter((t) => before.tasks[t.id] !== t),
    setTimers: Object.values(after.timers).filter((t) => !before.timers[t.id]),
    clearTimers: Object.keys(before.timers).filter((id) => !after.timers[id]),
  };
  if (before.calls === after.calls) return out;
  const calls = { ...before.calls, ...after.calls };
  for (const call of Object.values(calls)) {
    const [was, is] = [before.calls[call.id]?.state, after.calls[call.id]?.state];
    if (was === is) continue;
    // One that left nothing behind had no tasks.
    const inner = projections(was ?? NEW_REQUEST, is ?? NEW_REQUEST);
    out.tasks.push(...inner.tasks.map((t) => taskOutside(call, t)));
    out.setTimers.push(...inner.setTimers.map((t) => ({ ...t, id: inCall(call.id, t.id) })));
    out.clearTimers.push(...inner.clearTimers.map((id) => inCall(call.id, id)));
  }
  return out;
}
