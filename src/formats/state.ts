import type { Part, RequestState } from "@/core/engine";
import { personParty } from "@/core/form";
import { upgraded, versionOf, type Format } from "./versions";

/**
 * @2: what is stuck may name what could not be done, and documents say their version. @3: it is known when each field
 * changed last; of requests from before that, nothing has changed since anybody looked. @4: what steps found is kept. @5: rounds and sleeps; a token
 * knows how many it waits for. @6: procedures under way. @7: whoever asked is a party.
 */
export const STATE: Format = {
  name: "cobble-step/state",
  newest: 7,
  upgraders: [
    (old) => ({ ...old, format: "cobble-step/state@2" }),
    (old) => ({ changedAt: {}, ...old, format: "cobble-step/state@3" }),
    (old) => ({ kept: {}, ...old, format: "cobble-step/state@4" }),
    (old) => ({
      scopes: {},
      runs: {},
      sleeps: {},
      ...old,
      tokens: counted(old["tokens"]),
      format: "cobble-step/state@5",
    }),
    (old) => ({ calls: {}, ...old, format: "cobble-step/state@6" }),
    (old) => ({ ...byParty(old), format: "cobble-step/state@7" }),
  ],
};

type Doc = Readonly<Record<string, unknown>>;
/** Whoever asked as a party, in procedures too; a part of a request says nothing of it. */
function byParty(old: Doc): Doc {
  const { requester } = old;
  const calls = Object.entries((old["calls"] ?? {}) as Record<string, Doc>);
  return {
    ...old,
    ...(typeof requester === "string" ? { requester: personParty(requester) } : {}),
    ...("calls" in old
      ? {
          calls: Object.fromEntries(
            calls.map(([id, c]) => [id, { ...c, state: byParty(c["state"] as Doc) }]),
          ),
        }
      : {}),
  };
}

interface OldToken {
  parent: string | null;
}
/** Tokens with how many others each waits for. */
function counted(tokens: unknown): Record<string, OldToken & { waitsFor?: number }> {
  const all = Object.entries((tokens ?? {}) as Record<string, OldToken>);
  return Object.fromEntries(
    all.map(([id, t]) => {
      const waitsFor = all.filter(([, x]) => x.parent === id).length;
      return [id, waitsFor > 0 ? { ...t, waitsFor } : t];
    }),
  );
}

/** The state of a request as it is stored. */
export const storedState = (state: RequestState): object => ({
  ...state,
  format: `${STATE.name}@${STATE.newest}`,
});

/** A part of a large request as it is stored: a state of which only some of the maps are there, under the same tag. */
export function storedPart({ id: _, parent: __, past: ___, beside: ____, ...maps }: Part): object {
  const filled = Object.entries(maps).filter(([, map]) => Object.keys(map).length > 0);
  return { ...Object.fromEntries(filled), format: `${STATE.name}@${STATE.newest}` };
}

/** @returns the maps that are there */
export function readPart(document: unknown): Partial<RequestState> {
  const old = document as Readonly<Record<string, unknown>>;
  const { format: _tag, ...maps } = upgraded(STATE, old, versionOf(STATE, old));
  return maps;
}

export function readState(document: unknown): RequestState {
  const old = document as Readonly<Record<string, unknown>>;
  const { format: _tag, ...state } = upgraded(STATE, old, versionOf(STATE, old, 1));
  return state as unknown as RequestState;
}
