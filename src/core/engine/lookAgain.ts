import { stepKind } from "../kinds";
import { isLive } from "./callIds";
import { lookFor, watchKey } from "./lookFor";
import { isEnded, NEW_REQUEST, type RequestState, type Sleep } from "./state";
import type { Turn } from "./turn";
import { clearly } from "./unclear";
import { endSleep, stuck, wake, workIn } from "./walk";

/** Sleeps that end in one command because what they waited for has come: two that wake each other for ever are stopped. */
const MOST_WOKEN = 200;

/**
 * Asks everything that waits for something to come whether it has, where that may be otherwise than before, and goes on
 * with what has. Goes on until nothing more comes of it: what wakes may set what something else waits for.
 * @param before the state before the command
 * @param all whatever changed here: records may have
 */
export function lookAgain(turn: Turn, before: RequestState, all: boolean): void {
  let was = before;
  for (let first = true; first || turn.state !== was; first = false) {
    if (isEnded(turn.state)) return;
    const { state } = turn;
    if (state.awaits && ((all && first) || state !== was)) {
      const here = Object.values(state.sleeps).filter((z) => z.watches).length;
      // Of a large request those that were not read may wait for the same.
      const { sleeps } = here < state.awaits ? turn.whole() : state;
      for (const z of Object.values(sleeps)) if (z.watches && turn.state.sleeps[z.id]) look(turn, z);
    }
    for (const call of Object.values(turn.state.calls)) {
      if (!isLive(call) || (!all && was.calls[call.id] === call)) continue;
      if (!turn.state.calls[call.id]) continue;
      const from = was.calls[call.id]?.state ?? NEW_REQUEST;
      workIn(turn, call.id, (inner) => (lookAgain(inner, from, all && first), null), null);
    }
    was = state;
  }
}

function look(turn: Turn, z: Sleep) {
  const step = turn.release.places.get(z.step)?.step;
  if (!step || !stepKind(turn.release.kinds, step).came) return;
  const looked = clearly(() => lookFor(turn, turn.at(z.token, z.step), step));
  if ("go" in looked) {
    endSleep(turn, z.id, "time");
    return stuck(turn, z.token, z.step, looked.reason);
  }
  const { came, watches } = looked;
  if (came && ++turn.woken > MOST_WOKEN) {
    endSleep(turn, z.id, "time");
    return stuck(turn, z.token, z.step, { code: "runaway", data: { step: step.name, limit: MOST_WOKEN } });
  }
  if (came) return wake(turn, z.id, "came");
  const same = (list: Sleep["watches"]) => (list ?? []).map(watchKey).join(" ");
  // By what they say: the database keeps the properties of things in an order of its own.
  if (same(watches) === same(z.watches)) return;
  turn.raise({ type: "looked", sleep: z.id, token: z.token, step: z.step, watches }, null);
}
