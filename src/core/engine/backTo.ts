import { withCover } from "./assign";
import { barFor } from "./bar";
import type { Candidate, Task } from "./state";
import type { Turn } from "./turn";
import { clearly } from "./unclear";
import { voteOf } from "./voteOf";

/**
 * Who has a task again once whoever it was handed to has said what they would answer: the last who is there, may answer and
 * has no vote by another task, or their cover. Null where nobody is left: what is answered then counts.
 */
export function backTo(turn: Turn, t: Task): { to: Candidate; back: readonly string[] } | null {
  const bar = clearly(() => barFor(turn, t));
  if ("go" in bar) return null;
  for (const [i, person] of (t.back ?? []).entries()) {
    // Whoever is away and has no cover who may answer has it when they are back.
    const to = [withCover(turn, [person])[0]!, { person }].find(
      (c) =>
        turn.facts.isActive(c.person) &&
        bar(c.person) === null &&
        !t.candidates.some((x) => x.person === c.person) &&
        !voteOf(turn, t, c.person),
    );
    if (to) return { to, back: t.back!.slice(i + 1) };
  }
  return null;
}
