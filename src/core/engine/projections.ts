import { inCall, taskOutside } from "./callIds";
import { NEW_REQUEST, type RequestState, type Task, type Timer, type WatchedRecord } from "./state";

/** Tasks and timers that came, changed or went: data for whoever keeps lists of them. */
export interface Projections {
  tasks: Task[];
  setTimers: Timer[];
  clearTimers: string[];
  /** By sleep, the records that tell whether what it waits for has come; none where it does not sleep any more. */
  watches: { sleep: string; records: readonly WatchedRecord[] }[];
}

/** What has changed of a request's tasks and timers between two states, those in procedures too. */
export function projections(before: RequestState, after: RequestState): Projections {
  const out: Projections = {
    tasks: Object.values(after.tasks).filter((t) => before.tasks[t.id] !== t),
    setTimers: Object.values(after.timers).filter((t) => !before.timers[t.id]),
    clearTimers: Object.keys(before.timers).filter((id) => !after.timers[id]),
    watches: watchesChanged(before, after),
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
    out.watches.push(...inner.watches.map((w) => ({ ...w, sleep: inCall(call.id, w.sleep) })));
    out.clearTimers.push(...inner.clearTimers.map((id) => inCall(call.id, id)));
  }
  return out;
}

function watchesChanged(before: RequestState, after: RequestState): Projections["watches"] {
  if (before.sleeps === after.sleeps) return [];
  return Object.keys({ ...before.sleeps, ...after.sleeps }).flatMap((sleep) => {
    const [was, is] = [before.sleeps[sleep]?.watches, after.sleeps[sleep]?.watches];
    return was === is ? [] : [{ sleep, records: is ?? [] }];
  });
}
