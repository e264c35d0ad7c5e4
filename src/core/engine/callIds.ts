import type { Procedures } from "./facts";
import type { CompiledRelease } from "./release";
import { isEnded, type Call, type RequestState, type Task } from "./state";

/** What stands between the id of a call and that of something in it; no id has it. */
export const BETWEEN = "~";

/** The id by which something in a procedure is known outside of it. */
export const inCall = (call: string, id: string): string => `${call}${BETWEEN}${id}`;

/** The call an id leads into, and the id there; null where it is of the request's own. */
export function splitCall(id: string): { call: string; id: string } | null {
  const at = id.indexOf(BETWEEN);
  return at < 0 ? null : { call: id.slice(0, at), id: id.slice(at + 1) };
}

/** A task as it is known outside of the call it stands in: `step` is told with the step that hands over. */
export const taskOutside = (call: Pick<Call, "id" | "step">, t: Task): Task => {
  const { scope: _, ...rest } = t;
  return {
    ...rest,
    id: inCall(call.id, t.id),
    visit: inCall(call.id, t.visit),
    token: inCall(call.id, t.token),
    step: inCall(call.step, t.step),
  };
};

/** All tasks, those in procedures too, as they are known outside. */
export function allTasks(s: RequestState): Task[] {
  const own = Object.values(s.tasks);
  const calls = Object.values(s.calls);
  if (calls.length === 0) return own;
  return [...own, ...calls.flatMap((c) => allTasks(c.state).map((t) => taskOutside(c, t)))];
}

export const isLive = (c: Call): boolean => !isEnded(c.state);

/** A request or a procedure in it, and what it is told by outside: ids of calls from the outermost in. */
export interface Level {
  state: RequestState;
  calls: readonly Call[];
}

/** The id by which something at a level is known outside of all procedures. */
export const outsideId = ({ calls }: Pick<Level, "calls">, id: string): string =>
  calls.reduceRight((inner, c) => inCall(c.id, inner), id);

/** The release a level is on. @param own that of the request */
export const releaseAt = (
  { calls }: Pick<Level, "calls">,
  own: CompiledRelease,
  procedures: Procedures,
): CompiledRelease => {
  const call = calls.at(-1);
  const release = call ? procedures.byId(call.release) : own;
  if (!release) throw new Error(`release ${call!.release} of ${call!.procedure} is not at hand`);
  return release;
};

/** What an id leads to, procedures within procedures too, and the id there; null where there is no such call. */
export function levelOf(s: RequestState, id: string): (Level & { id: string }) | null {
  let state = s;
  const calls: Call[] = [];
  for (let into = splitCall(id); into; into = splitCall(id)) {
    const call = Object.hasOwn(state.calls, into.call) ? state.calls[into.call] : undefined;
    if (!call) return null;
    calls.push(call);
    ({ id } = into);
    state = call.state;
  }
  return { state, calls, id };
}

/** The request and every procedure in it, the outermost first. */
export function levelsOf(s: RequestState, calls: readonly Call[] = []): Level[] {
  return [{ state: s, calls }, ...Object.values(s.calls).flatMap((c) => levelsOf(c.state, [...calls, c]))];
}
