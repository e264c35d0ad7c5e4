import type { AnswerChoice, Assignment } from "../route";
import type { Task, Visit } from "./state";

/** How many of those asked must agree for agreement to count. */
export function neededFor(who: Pick<Assignment, "how" | "share">, asked: number): number {
  if (who.how === "all") return asked;
  if (who.how === "share") return Math.min(asked, Math.max(1, Math.ceil((asked * (who.share ?? 50)) / 100)));
  return 1;
}

/**
 * The answer of a visit, or null while it is open.
 * With one answer needed the first given counts. With more, that many of those who are asked by now must agree: give
 * an answer that agrees by its tone, wherever it stands on the sheet (where none does, the first). As soon as that is
 * certain the agreeing answer given most often counts; as soon as it is out of reach, the other answer given most
 * often. A tie goes to the one that stands later (owners put the more cautious answers last).
 */
export function outcomeOf(
  visit: Pick<Visit, "id" | "asked">,
  who: Pick<Assignment, "how" | "share">,
  answers: readonly Pick<AnswerChoice, "id" | "tone">[],
  tasks: readonly Task[],
): string | null {
  const given = tasks.filter(
    (t) => t.visit === visit.id && t.status === "answered" && t.answer !== undefined,
  );
  if (given.length === 0) return null;
  if (who.how === "one" || who.how === "first") return given[0]!.answer!;
  const agreeing = answers.filter((a) => a.tone === "agree").map((a) => a.id);
  if (agreeing.length === 0 && answers[0]) agreeing.push(answers[0].id);
  const others = answers.map((a) => a.id).filter((id) => !agreeing.includes(id));
  const count = (a: string) => given.filter((t) => t.answer === a).length;
  const mostOften = (ids: readonly string[]) =>
    ids.reduce<string | null>(
      (best, a) => (count(a) > 0 && (best === null || count(a) >= count(best)) ? a : best),
      null,
    );
  const agreed = agreeing.reduce((n, a) => n + count(a), 0);
  const needed = neededFor(who, visit.asked);
  if (agreed >= needed) return mostOften(agreeing);
  return agreed + (visit.asked - given.length) >= needed ? null : mostOften(others);
}
