import type { RequestState } from "@/core/engine";
import { upgraded, versionOf, type Format } from "./versions";

/**
 * @2: what is stuck may name what could not be done, and documents say their version. @3: it is known when each field
 * changed last; of requests from before that, nothing has changed since anybody looked. @4: what steps found is kept.
 */
export const STATE: Format = {
  name: "cobble-step/state",
  newest: 4,
  upgraders: [
    (old) => ({ ...old, format: "cobble-step/state@2" }),
    (old) => ({ changedAt: {}, ...old, format: "cobble-step/state@3" }),
    (old) => ({ kept: {}, ...old, format: "cobble-step/state@4" }),
  ],
};

/** The state of a request as it is stored. */
export const storedState = (state: RequestState): object => ({
  ...state,
  format: `${STATE.name}@${STATE.newest}`,
});

export function readState(document: unknown): RequestState {
  const old = document as Readonly<Record<string, unknown>>;
  const { format: _tag, ...state } = upgraded(STATE, old, versionOf(STATE, old, 1));
  return state as unknown as RequestState;
}
