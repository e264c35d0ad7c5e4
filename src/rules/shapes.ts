/** Who a rule finds, by kind. To add a kind: its shape here, its folder, and a line in each list beside it. */
export interface RuleParts {
  requester: { by: "requester" };
  person: { by: "person"; person: string };
  group: { by: "group"; group: string };
  /** Holders of a duty; `place` is a formula for the site or department, absent for any. */
  duty: { by: "duty"; duty: string; place?: string };
  /** `levels` up from `of` (a formula; the requester when absent; in a rung, whoever has the task). */
  manager: { by: "manager"; of?: string; levels?: number };
  /** A person field, a column of a looked-up record (`Store.Keeper`), or anything that comes to people. */
  formula: { by: "formula"; formula: string };
}
export type RuleKind = keyof RuleParts;
export type Rule = RuleParts[RuleKind];
