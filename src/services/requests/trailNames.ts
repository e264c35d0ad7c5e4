import {
  proceduresFrom,
  type CompiledRelease,
  type ProceduresRead,
  type RequestEvent,
  type RequestState,
  type Task,
} from "@/core/engine";
import type { Registers } from "@/core/form";
import type { TrailNames } from "@/core/words";

interface About {
  release: CompiledRelease;
  state: Pick<RequestState, "tasks" | "calls">;
  events: readonly RequestEvent[];
  procedures: ProceduresRead;
}

/** Whether somebody sees all that records of a register are called by. @param seen the registers as they see them */
export const namesRecords =
  (all: Registers, seen: Registers): TrailNames["namesRecords"] =>
  (register) =>
    Object.values(all)
      .filter((r) => register === null || r.key === register)
      .every((r) => r.title.every((c) => seen[r.key]?.title.includes(c) ?? false));

const NOTHING: About["state"] = { tasks: {}, calls: {} };

/** What the trail of a request calls steps and tasks, in its procedures too. @param said what is the same in all of them */
export function trailNames(
  { release, state, events, procedures }: About,
  said: Pick<TrailNames, "person" | "time" | "mends" | "namesRecords">,
): TrailNames {
  const step = (id: string) => release.places.get(id)?.step.name ?? id;
  const opened = new Map(
    events.flatMap((e) => (e.type === "call opened" ? [[e.call.id, e.call] as const] : [])),
  );
  const known = new Map<string, ReturnType<TrailNames["inCall"]>>();
  // What is not kept any more of a procedure is told by its events.
  const tasks = new Map<string, Task>();
  for (const e of events)
    if (e.type === "task opened" || e.type === "decider added") tasks.set(e.task.id, e.task);
  return {
    ...said,
    step,
    task: (id) => state.tasks[id] ?? tasks.get(id) ?? null,
    inCall(id) {
      const found = known.get(id);
      if (found) return found;
      const call = opened.get(id);
      const inner = call && proceduresFrom(procedures).byId(call.release);
      if (!call || !inner) return null;
      const inside = events.flatMap((e) => (e.type === "in call" && e.call === id ? [e.event] : []));
      const names = trailNames(
        { release: inner, state: state.calls[id]?.state ?? NOTHING, events: inside, procedures },
        said,
      );
      const within = {
        step: step(call.step),
        procedure: inner.definition.name,
        release: call.release,
        names,
      };
      known.set(id, within);
      return within;
    },
  };
}
