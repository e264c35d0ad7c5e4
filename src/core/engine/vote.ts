import type { Assignment } from "../route";
import type { Task, Visit } from "./state";

/** How many must give the first answer for it to count. */
export function neededFor(who: Assignment, asked: number): number {
  if (who.how === "all") return asked;
  if (who.how === "share") return Math.min(asked, Math.max(1, Math.ceil((asked * (who.share ?? 50)) / 100)));
  return 1;
}

/**
 * The answer of a visit, or null while it is open.
 * With one answer needed the first given counts. With more, the step's first answer must be given that
 * often; as soon as it no longer can be, the answer given most often among the others counts, a tie
 * going to the one that stands later on the sheet (owners put the more cautious answers last).
 */
export function outcomeOf(
  visit: Visit,
  how: Assignment["how"],
  answers: readonly string[],
  tasks: readonly Task[],
): string | null {
  const given = tasks.filter(
    (t) => t.visit === visit.id && t.status === "answered" && t.answer !== undefined,
  );
  if (given.length === 0) return null;
  if (how === "one" || how === "first") return given[0]!.answer!;
  const first = answers[0]!;
  const agreed = given.filter((t) => t.answer === first).length;
  const needed = how === "all" ? visit.asked : visit.needed;
  if (agreed >= needed) return first;
  if (agreed + (visit.asked - given.length) >= needed) return null;
  const count = (a: string) => given.filter((t) => t.answer === a).length;
  return answers
    .slice(1)
    .reduce<string | null>(
      (best, a) => (count(a) > 0 && (best === null || count(a) >= count(best)) ? a : best),
      null,
    );
}
