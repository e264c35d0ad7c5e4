import type { Turn } from "./turn";

/**
 * The round whose names a letter, a ladder or a template was checked with: one further in may call something else by the same name,
 * where it is used from elsewhere too.
 * @param owner `letterOwner`, `ladderOwner`, `documentOwner`
 * @param from the scope it is used from
 */
export function scopeOfText({ release, state }: Turn, owner: string, from: string | null): string | null {
  const rounds = release.roundsOf(owner);
  const { scopes, runs } = state;
  let scope = rounds === null ? null : from;
  while (scope !== null && runs[scopes[scope]?.run ?? ""]?.step !== rounds)
    scope = scopes[scope]?.parent ?? null;
  return scope;
}
