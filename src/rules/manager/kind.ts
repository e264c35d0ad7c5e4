import { PERSON } from "@/core/expression";
import { idsOf, type RuleBehaviour, type RuleTurn } from "@/core/kinds";
import type { RuleParts } from "../shapes";

const MAX_LEVELS = 20;

/** Those above somebody, the nearest first. A circle of managers ends where it closes. */
function lineAbove(person: string | null, turn: RuleTurn): string[] {
  const line: string[] = [];
  for (let at = person && turn.managerId(person); at; at = turn.managerId(at)) {
    if (at === person || line.includes(at) || line.length === MAX_LEVELS) break;
    line.push(at);
  }
  return line;
}

/** Which of the line is meant; -1 where it is gone up in vain. */
function reachOf(
  { until, levels = 1 }: RuleParts["manager"],
  line: readonly string[],
  turn: RuleTurn,
): number {
  if (until === undefined) return levels <= line.length ? levels - 1 : -1;
  if ("title" in until) {
    const wanted = until.title.trim().toLowerCase();
    return line.findIndex((p) => wanted !== "" && turn.jobTitleOf(p).trim().toLowerCase() === wanted);
  }
  return line.findIndex((_, i) => line.length - i <= until.level);
}

/** The manager of somebody, or of theirs: so many levels up, or up to a job title or a level. */
export const manager: RuleBehaviour<"manager"> = {
  says: "the manager of somebody",
  blank: () => ({ by: "manager" }),
  empty: (r) => r.until !== undefined && "title" in r.until && r.until.title.trim() === "",
  formulas(r, place, says, walk) {
    if (r.of === undefined) return r;
    return {
      ...r,
      of: walk.formula({ place: `${place} of`, says: `whose manager, ${says}`, wants: PERSON }, r.of),
    };
  },
  people(r, turn) {
    const from = r.of ? (idsOf(turn.value("of", r.of))[0] ?? null) : (turn.holder ?? turn.requester);
    const line = lineAbove(from, turn);
    const reach = reachOf(r, line, turn);
    if (r.line && r.until === undefined) return line.slice(0, r.levels ?? 1);
    if (reach < 0) return [];
    return r.line ? line.slice(0, reach + 1) : [line[reach]!];
  },
  problems(r, { office, saved, say }) {
    if (r.until && "title" in r.until) {
      const { title } = r.until;
      if (!title.trim()) say("error", "no-title", "Say up to which job title it goes.");
      else if (!office.people.some((p) => p.jobTitle?.trim().toLowerCase() === title.trim().toLowerCase()))
        say("error", "no-title", `Nobody here has the job title "${title}".`);
      return;
    }
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
    const all = r.line ? "everybody on the way up from" : "manager of";
    const from = inRung && !r.of ? "whoever has it" : (r.of ?? "Requester");
    if (r.until)
      return "title" in r.until
        ? `${all} ${from}, up to the ${r.until.title || "…"}`
        : `${all} ${from}, up to level ${r.until.level}`;
    if (inRung && !r.of && !r.line && (r.levels ?? 1) === 1) return "their manager";
    const up = (r.levels ?? 1) > 1 ? `, ${r.levels} levels up` : "";
    return `${all} ${from}${up}`;
  },
};
