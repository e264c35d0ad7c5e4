import { ruleInWords, type OfficeData } from "@/core/engine";
import type { Assignment, Rule } from "@/core/process";

/** A rule as the sheet reads: people by their names. In a rung, a manager is that of whoever has the task. */
export function ruleText(rule: Rule, office: OfficeData, inRung = false): string {
  if (inRung && rule.by === "manager" && !rule.of) return "their manager";
  if (rule.by === "person")
    return office.people.find((p) => p.id === rule.person)?.name ?? (rule.person || "nobody yet");
  if (rule.by === "formula")
    return rule.formula.replace(/\.([^.]+)$/, (_, c: string) => `’s ${c}`) || "nobody yet";
  if (rule.by === "duty" && !rule.duty) return "nobody yet";
  if (rule.by === "group" && !rule.group) return "nobody yet";
  return ruleInWords(rule);
}
export const isEmptyRule = (r: Rule): boolean =>
  (r.by === "person" && !r.person) ||
  (r.by === "group" && !r.group) ||
  (r.by === "duty" && !r.duty) ||
  (r.by === "formula" && !r.formula);

export function assignmentText(who: Assignment, office: OfficeData): string {
  const how = {
    one: "",
    first: ", first answer counts",
    all: ", all must agree",
    share: `, ${who.share ?? 50}% must agree`,
  }[who.how];
  return ruleText(who.rule, office) + how;
}
