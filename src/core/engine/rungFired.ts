import { rungPlaces, type Rung } from "../route";
import type { StuckReason, Timer } from "./state";
import type { At, Turn } from "./turn";
import { clearly } from "./unclear";

/** Tells that a moment of a ladder has come. @param step whose ladder it is; of a part that, of the whole "" */
export function rungFired(
  turn: Turn,
  timer: Timer,
  step: string,
  rung: Rung,
  came: { found: boolean; unmet?: boolean; unclear?: StuckReason | undefined },
): void {
  const { found, unmet, unclear } = came;
  turn.raise({
    type: "rung fired",
    timer: timer.id,
    visit: timer.visit,
    step,
    rung: rung.id,
    did: rung.action.do,
    found,
    ...(unmet ? { unmet: true as const } : {}),
    ...(unclear ? { unclear } : {}),
  });
}

/** Why a rung does nothing: what must hold for it does not, or cannot be told; null where it holds, or nothing must. */
export function whyNotFired(
  turn: Turn,
  at: At,
  rung: Rung,
): { unmet: boolean; unclear: StuckReason | undefined } | null {
  if (rung.if === undefined) return null;
  const condition = rung.if;
  const met = clearly(() => turn.holds(at, rungPlaces.if(rung.id), condition).yes);
  if (met === true) return null;
  // Nothing is done by what cannot be told; the trail says why.
  return met === false ? { unmet: true, unclear: undefined } : { unmet: false, unclear: met.reason };
}
