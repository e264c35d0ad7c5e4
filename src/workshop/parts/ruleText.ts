import { ruleWords, type OfficeData } from "@/core/engine";
import { ruleKind } from "@/core/kinds";
import type { Assignment, Rule } from "@/core/route";
import { KINDS } from "@/kinds";

/** A rule as the sheet reads: people by their names. In a rung, a manager is that of whoever has the task. */
export const ruleText = (rule: Rule, office: OfficeData, inRung = false): string =>
  ruleWords(KINDS, rule, { person: (id) => office.people.find((p) => p.id === id)?.name ?? id, inRung });

export const isEmptyRule = (r: Rule): boolean => ruleKind(KINDS, r).empty(r);

export function assignmentText(who: Assignment, office: OfficeData): string {
  const how = {
    one: "",
    first: ", first answer counts",
    all: ", all must agree",
    share: `, ${who.share ?? 50}% must agree`,
  }[who.how];
  return ruleText(who.rule, office) + how;
}
