import { inCall } from "./callIds";
import type { EventBody, RequestEvent } from "./events";
import type { Call } from "./state";
import { Turn } from "./turn";

/** What happened, told with the procedure it happened in. */
export const eventsInside = (call: string, events: readonly RequestEvent[]): EventBody[] =>
  events.map((event) => ({ type: "in call", call, event }));

/**
 * Does something in a procedure, and takes what came of it into the request.
 * @returns what the deed did; null says that there is no such procedure
 */
export function inside<T>(turn: Turn, id: string, deed: (inner: Turn) => T): { did: T; inner: Turn } | null {
  const call = Object.hasOwn(turn.state.calls, id) ? turn.state.calls[id] : undefined;
  if (!call) return null;
  const release = turn.facts.procedures.byId(call.release);
  // Releases are kept for as long as anything is on them: whoever decides has them at hand.
  if (!release) throw new Error(`release ${call.release} of ${call.procedure} is not at hand`);
  const inner = new Turn(release, call.state, turn.facts, turn.actor, turn.moved);
  inner.depth = turn.depth + 1;
  inner.outer = { turn, call: id };
  const did = deed(inner);
  absorb(turn, call, inner);
  return { did, inner };
}

/** Takes what was done in a procedure into the request around it. */
export function absorb(turn: Turn, call: Pick<Call, "id" | "step" | "scope">, inner: Turn): void {
  turn.moved = inner.moved;
  if (inner.events.length === 0) return;
  turn.raiseAs(
    eventsInside(call.id, inner.events),
    inner.events.map((e) => e.by),
    call.scope ?? null,
  );
  // Its step and round stay those of the procedure: whoever carries it out reads the names there.
  for (const e of inner.effects) turn.effects.push({ ...e, id: inCall(call.id, e.id) });
}
