import { ruleWords } from "@/core/engine";
import { isEmptyRule as isEmpty } from "@/core/kinds";
import { placesOf, type Assignment, type Rule } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";

/** A rule as the sheet reads: people and steps by their names. In a rung, a manager is that of whoever has the task. */
export function useRuleText(): (rule: Rule, inRung?: boolean) => string {
  const people = useDraft((d) => d.office.data.people);
  const definition = useDraft((d) => d.definition);
  return (rule, inRung = false) =>
    ruleWords(KINDS, rule, {
      person: (id) => people.find((p) => p.id === id)?.name ?? id,
      step: (id) => placesOf(definition, KINDS).get(id)?.step.name ?? id,
      inRung,
    });
}

export const isEmptyRule = (r: Rule): boolean => isEmpty(KINDS, r);

export function assignmentText(who: Assignment, text: (rule: Rule) => string): string {
  const how = {
    one: "",
    first: ", first answer counts",
    all: ", all must agree",
    share: `, ${who.share ?? 50}% must agree`,
    number: `, ${who.number ?? 1} must agree`,
    order: ", one after another, all must agree",
  }[who.how];
  const turns = { "in turn": ", whose turn it is", "fewest open": ", who has the fewest open tasks" };
  const one = who.turns === undefined ? "" : turns[who.turns];
  const waits = who.waits ? ", when everybody has answered" : "";
  const never = (who.never ?? []).map(text);
  const apart = never.length > 0 ? `, never ${never.join(" nor ")}` : "";
  return text(who.rule) + how + waits + one + apart;
}
