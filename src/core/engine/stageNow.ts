import type { Stages } from "../route";
import type { RequestState } from "./state";

/**
 * Which stage a request stands in, by its place among them: where it stands at several steps, the earliest of theirs, as
 * that is not done. Null where it stands before the first, or was withdrawn or called off.
 * @param ended the step at which it finished; null for none
 */
export function stageNow(
  { of }: Stages,
  state: Pick<RequestState, "status" | "tokens">,
  ended: string | null,
): number | null {
  if (state.status === "finished") return (ended === null ? undefined : of.get(ended)) ?? null;
  if (state.status === "withdrawn" || state.status === "cancelled") return null;
  let now: number | null = null;
  for (const t of Object.values(state.tokens)) {
    // Whoever waits for others stands where they do; what goes on beside holds up nothing.
    if (t.waitsFor || t.beside) continue;
    const at = of.get(t.step);
    // At a step before the first stage no stage has been come to.
    if (at === undefined) return null;
    if (now === null || at < now) now = at;
  }
  return now;
}
