import { inCall, levelsOf, outsideId, type RequestEvent, type RequestState } from "@/core/engine";
import { stepKind } from "@/core/kinds";
import { KINDS } from "@/kinds";
import type { Carried } from "./carry";

/** Ids of the effects by which requests were asked for, in procedures too, that are waited for. */
const asked = (s: RequestState): string[] =>
  levelsOf(s).flatMap((level) =>
    Object.values(level.state.pending)
      .filter((p) => stepKind(KINDS, p).begins)
      .map((p) => outsideId(level, p.id)),
  );

/** What came of effects, as ids tell them outside. */
function told(e: RequestEvent): string[] {
  if (e.type === "in call") return told(e.event).map((id) => inCall(e.call, id));
  return e.type === "effect done" || e.type === "effect failed" ? [e.effect] : [];
}

/**
 * Whether a command leaves requests that were started from this one with nobody who needs them: what waited for one was
 * called off, or this one was withdrawn or cancelled. Whether there are any is not asked here.
 */
export function leavesAlone(
  before: RequestState,
  { state, events }: Pick<Carried, "state" | "events">,
): boolean {
  const over = (s: RequestState) => s.status === "withdrawn" || s.status === "cancelled";
  if (over(state) && !over(before)) return true;
  if (before.pending === state.pending && before.calls === state.calls) return false;
  const still = new Set(asked(state));
  const came = new Set(events.flatMap(told));
  return asked(before).some((id) => !still.has(id) && !came.has(id));
}
