import { stepKind } from "../kinds";
import { flowOf, type Step } from "../route";
import type { CompiledRelease } from "./release";

/** Two steps of which the second asks whom the first just asked. */
export interface AskedTwice {
  /** Id of the step before it. */
  before: string;
  /** For how many people's requests, and the first few: who made it, and who is asked twice. */
  count: number;
  first: { person: string; asked: string }[];
}

/**
 * By step that asks people those that can come right before it, with nobody asked in between. What leads back to an earlier
 * step has it answered anew, which is meant.
 */
export function askedBefore(release: CompiledRelease): ReadonlyMap<string, readonly string[]> {
  const { places, kinds, definition } = release;
  const { next } = flowOf(definition, places, kinds);
  const asks = (s: Step | undefined) => s !== undefined && stepKind(kinds, s).asks !== null;
  const order = new Map([...places.keys()].map((id, i) => [id, i]));
  const out = new Map<string, string[]>();
  for (const [id, { step }] of places) {
    if (!asks(step)) continue;
    const seen = new Set<string>();
    const todo = [...(next.get(id) ?? [])];
    for (let to = todo.pop(); to !== undefined; to = todo.pop()) {
      if (seen.has(to)) continue;
      seen.add(to);
      if (!asks(places.get(to)?.step)) todo.push(...(next.get(to) ?? []));
      else if (order.get(to)! > order.get(id)!) out.set(to, [...(out.get(to) ?? []), id]);
    }
  }
  return out;
}
