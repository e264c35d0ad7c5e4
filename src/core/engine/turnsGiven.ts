import type { RequestEvent } from "./events";
import type { RequestState } from "./state";

/** Somebody was given a step because it was their turn. */
export interface TurnGiven {
  /** The process or procedure it is a step of. */
  process: string;
  step: string;
  person: string;
}

/** Of whom it was the turn, in what happened. @param process the key of whose events they are; `state` the request behind them */
export function turnsGiven(
  process: string,
  state: RequestState,
  events: readonly RequestEvent[],
): TurnGiven[] {
  return events.flatMap((e) => {
    if (e.type === "in call") {
      const call = state.calls[e.call];
      return call ? turnsGiven(call.procedure, call.state, [e.event]) : [];
    }
    if (e.type !== "task opened" || e.task.turn === undefined) return [];
    return [{ process, step: e.task.step, person: e.task.turn }];
  });
}
