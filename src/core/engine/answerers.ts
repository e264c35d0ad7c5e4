import { isOfStep } from "./state";
import type { At, Turn } from "./turn";

/**
 * Who has answered a step, in the order they did; somebody who answered for another is who answered. Answers of a visit
 * that is still open count, and whoever chose in their place how it goes on. Of a step in rounds those of the round that
 * asks, and of rounds within it; asked from outside of them, those of all rounds.
 */
export function answerersOf(turn: Turn, at: At, step: string): string[] {
  const s = turn.whole();
  const around = new Set<string | null>([null]);
  for (let id = at.scope; id !== null; id = s.scopes[id]?.parent ?? null) around.add(id);
  const places = turn.release.places;
  /** Steps that go round, around one. Rounds that have ended are not known any more, but how deep they lay is. */
  const depth = (id: string) =>
    places.get(id)?.owners.filter((o) => turn.release.kinds.steps[o.step.kind].rounds).length ?? 0;
  const deeper = depth(step) > depth(at.step);
  const counts = (scope: string | null): boolean => {
    if (around.has(scope) || at.scope === null) return true;
    let id = scope;
    while (id !== null && s.scopes[id]) {
      id = s.scopes[id]!.parent;
      if (id === at.scope) return true;
    }
    // It has ended: of another round of the same, or of one within this.
    return id !== null && deeper;
  };
  const answered = Object.values(s.tasks)
    .filter((t) => t.step === step && isOfStep(t) && t.status === "answered" && t.by)
    .filter((t) => counts(t.scope ?? null))
    .sort((a, b) => (a.endedAt ?? 0) - (b.endedAt ?? 0))
    .map((t) => t.by!);
  const chose = (s.chose ?? []).filter((c) => c.step === step && counts(c.scope)).map((c) => c.by);
  return [...new Set([...answered, ...chose])];
}
