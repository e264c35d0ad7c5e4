/** Who a rule finds, by kind. To add a kind: its shape here, its folder, and a line in each list beside it. */
export interface RuleParts {
  requester: { by: "requester" };
  /** Ids; `others` are meant beside the first. */
  person: { by: "person"; person: string; others?: string[] };
  group: { by: "group"; group: string };
  /** Holders of a duty; `place` is a formula for the site or department, absent for any. */
  duty: { by: "duty"; duty: string; place?: string };
  /** Up from `of` (a formula; the requester when absent; in a rung, whoever has the task). */
  manager: {
    by: "manager";
    of?: string;
    /** How many up; one when absent. */
    levels?: number;
    /** Until somebody is come to; `levels` says nothing then. */
    until?: UpTo;
    /** Everybody on the way as well, the nearest first. */
    line?: true;
  };
  /** Whoever holds the duty `HEAD` for a department: that of a person, or one by its name. The requester's when absent. */
  head: { by: "head"; of?: string };
  /** Everybody here who meets a condition over what is known of people. */
  people: { by: "people"; where: string };
  /** Whoever has answered another step of the same route, also while it is open; or any of `others` beside it. */
  answered: { by: "answered"; step: string; others?: string[] };
  /** A person field, a column of a looked-up record (`Store.Keeper`), or anything that comes to people. */
  formula: { by: "formula"; formula: string };
  /** Whoever has an address (a formula), and how they are called (another); somebody who works here is asked as they are. */
  outside: { by: "outside"; to: string; name?: string };
  /** The first of several rules that finds somebody who may be asked, or whom all of them find. */
  several: { by: "several"; take: "first" | "all"; of: PlainRule[] };
}
/** With a job title, or so many desks from the top, who is the first. */
export type UpTo = { title: string } | { level: number };

export type RuleKind = keyof RuleParts;
export type Rule = RuleParts[RuleKind];
/** One that is not put together from others. */
export type PlainKind = Exclude<RuleKind, "several">;
export type PlainRule = RuleParts[PlainKind];

/** The duty whoever heads a department holds for it. */
export const HEAD = "Head of department";
/** Rules one may be put together from. */
export const MOST_RULES = 8;
/** People one rule names; more of them are a group. */
export const MOST_NAMED = 12;
