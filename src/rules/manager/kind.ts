import { PERSON } from "@/core/expression";
import { idsOf, type RuleBehaviour } from "@/core/kinds";

const MAX_LEVELS = 20;

/** The manager of somebody, or of theirs, so many levels up. */
export const manager: RuleBehaviour<"manager"> = {
  says: "the manager of somebody",
  blank: () => ({ by: "manager" }),
  empty: () => false,
  formulas(r, place, says, walk) {
    if (r.of === undefined) return r;
    return {
      ...r,
      of: walk.formula({ place: `${place} of`, says: `whose manager, ${says}`, wants: PERSON }, r.of),
    };
  },
  people(r, turn) {
    let person = r.of ? (idsOf(turn.value("of", r.of))[0] ?? null) : (turn.holder ?? turn.requester);
    for (let i = 0; i < Math.min(r.levels ?? 1, MAX_LEVELS) && person; i++) person = turn.managerId(person);
    return person ? [person] : [];
  },
  problems(r, { office, saved, say }) {
    if (saved || (r.of && r.of !== "Requester")) return;
    const alone = office.people.filter((p) => !p.manager);
    if (alone.length === 0) return;
    const names = alone.slice(0, 3).map((p) => p.name);
    const have = alone.length === 1 ? "has" : "have";
    say(
      "warning",
      "no-manager",
      `${names.join(", ")} ${have} no manager; a request of theirs would get stuck here. Name somebody else for that case.`,
    );
  },
  words(r, { inRung }) {
    if (inRung && !r.of) return "their manager";
    const up = (r.levels ?? 1) > 1 ? `, ${r.levels} levels up` : "";
    return `manager of ${r.of ?? "Requester"}${up}`;
  },
};
