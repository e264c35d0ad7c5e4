import type { RuleBehaviour } from "@/core/kinds";

const partOf = (i: number) => String(i + 1);

/** Rules put together: the first that finds somebody, or all of them. */
export const several: RuleBehaviour<"several"> = {
  says: "several of these, put together",
  blank: () => ({ by: "several", take: "first", of: [{ by: "manager" }] }),
  empty: (r, empty) => r.of.length === 0 || r.of.some(empty),
  formulas: (r, place, says, walk, reach) => ({
    ...r,
    of: r.of.map((x, i) => walk.rule(`${place} ${partOf(i)}`, says, x, reach)),
  }),
  people(r, turn) {
    const found = (i: number) => turn.people(partOf(i), r.of[i]!);
    if (r.take === "all") return r.of.flatMap((_, i) => found(i));
    let barred: string[] = [];
    for (const i of r.of.keys()) {
      const people = found(i);
      // Whoever may not be asked, such as the requester, is nobody who was found, unless nobody else is.
      if (people.some((p) => turn.mayBeAsked(p))) return people;
      if (barred.length === 0) barred = people;
    }
    return barred;
  },
  outside: (r, turn) => r.of.flatMap((x, i) => turn.outside(partOf(i), x)),
  problems(r, { say }) {
    if (r.of.length === 0) say("error", "no-rules", "Add a rule: put together from none, it finds nobody.");
  },
  words: (r, { rule }) =>
    r.of.map(rule).join(r.take === "first" ? ", or if that is nobody, " : " and ") || "nobody yet",
};
