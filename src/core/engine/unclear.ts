import type { EngineReason, StuckReason } from "./state";

/**
 * Thrown where a value that decides cannot be worked out, and caught by `clearly` where the route goes on, which leaves the
 * token stuck there. So no kind of step has to think of it, and none can take "could not be worked out" for "no".
 */
export class Unclear extends Error {
  constructor(readonly reason: EngineReason) {
    super(reason.code);
  }
}

export interface StuckHere {
  go: "stuck";
  reason: StuckReason;
}

/** What is answered, or that the route is stuck where a value that decides cannot be worked out. */
export function clearly<T>(work: () => T): T | StuckHere {
  try {
    return work();
  } catch (e) {
    if (e instanceof Unclear) return { go: "stuck", reason: e.reason };
    throw e;
  }
}
