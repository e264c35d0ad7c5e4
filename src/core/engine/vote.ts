import type { AnswerChoice, Assignment } from "../route";
import type { Task, Visit } from "./state";

export type Voting = Pick<Assignment, "how" | "share" | "number" | "wins" | "waits" | "ties">;

/**
 * How many of those asked must agree for agreement to count.
 * @param abstained how many of them have no say: a share is of the others, and all means all others
 */
export function neededFor(who: Voting, asked: number, abstained = 0): number {
  const voting = asked - abstained;
  switch (who.how) {
    case "one":
    case "first":
      return 1;
    case "all":
    case "order":
      return Math.max(1, voting);
    case "share":
      return Math.min(Math.max(1, voting), Math.max(1, Math.ceil((voting * (who.share ?? 50)) / 100)));
    case "number":
      // So many must, whoever abstains; all of them where there are fewer.
      return Math.min(Math.max(1, asked), Math.max(1, who.number ?? 1));
  }
}

/**
 * The answer of a visit, or null while it is open.
 * With one answer needed the first given counts. With more, that many of those who are asked by now must agree: give
 * the answer that must win, or one that agrees by its tone, wherever it stands on the sheet (where none does, the first).
 * As soon as that is certain the agreeing answer given most often counts; as soon as it is out of reach, the other answer
 * given most often; where it waits for everybody, when all have answered. Whoever abstains has no say: their answer counts
 * where nobody has one. A tie goes to the one that stands later (owners put the more cautious answers last), or first.
 */
export function outcomeOf(
  visit: Pick<Visit, "id" | "asked">,
  who: Voting,
  answers: readonly Pick<AnswerChoice, "id" | "tone" | "abstains">[],
  tasks: readonly Task[],
): string | null {
  const given = tasks.filter(
    (t) => t.visit === visit.id && t.status === "answered" && t.answer !== undefined,
  );
  if (given.length === 0) return null;
  if (who.how === "one") return given[0]!.answer!;
  const abstaining = answers.filter((a) => a.abstains).map((a) => a.id);
  const voting = answers.filter((a) => !a.abstains);
  const votes = given.filter((t) => !abstaining.includes(t.answer!));
  const everybody = given.length >= visit.asked;
  if (who.how === "first") return votes[0]?.answer ?? (everybody ? given[0]!.answer! : null);
  if (who.waits && !everybody) return null;
  const wins = voting.find((a) => a.id === who.wins);
  const agreeing = wins ? [wins.id] : voting.filter((a) => a.tone === "agree").map((a) => a.id);
  if (agreeing.length === 0 && voting[0]) agreeing.push(voting[0].id);
  const others = voting.map((a) => a.id).filter((id) => !agreeing.includes(id));
  const count = (a: string) => given.filter((t) => t.answer === a).length;
  const better = (a: string, best: string) =>
    who.ties === "first" ? count(a) > count(best) : count(a) >= count(best);
  const mostOften = (ids: readonly string[]) =>
    ids.reduce<string | null>(
      (best, a) => (count(a) > 0 && (best === null || better(a, best)) ? a : best),
      null,
    );
  const agreed = agreeing.reduce((n, a) => n + count(a), 0);
  const abstained = given.length - votes.length;
  const needed = neededFor(who, visit.asked, abstained);
  if (agreed >= needed) return mostOften(agreeing);
  if (agreed + (visit.asked - given.length) >= needed) return null;
  // Too few can agree still, and nobody need have refused for that: then those who abstained have the last word.
  return mostOften(others) ?? mostOften(abstaining) ?? (everybody ? mostOften(agreeing) : null);
}
