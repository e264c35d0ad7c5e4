import type { Rule, RuleKind, RuleParts } from "@/rules/shapes";
import type { Value } from "../expression";
import type { Outlet } from "../route/outlet";
import type { FormulaWalk } from "./places";
import type { Say } from "./say";

/** What a rule may ask. */
export interface RuleTurn {
  /** Null where nobody who works here asked. */
  requester: string | null;
  /** Who asked, where that is somebody outside with an address. */
  outsider: { name: string; email: string } | null;
  /** Who has the task, for rules that start from them. */
  holder: string | null;
  membersOf(group: string): string[];
  dutyHolders(duty: string, place: string | null): string[];
  managerId(person: string): string | null;
  jobTitleOf(person: string): string;
  departmentOf(person: string): string;
  /** Ids of those who have answered a step, also while it is open. */
  answerersOf(step: string): string[];
  /** The people here who meet a condition over what is known of them. */
  peopleMeeting(part: string, where: string): string[];
  /** Whether somebody could be asked, they or their cover; where nobody is asked, whether they are here. */
  mayBeAsked(person: string): boolean;
  /** What a rule within this one finds; `part` is where it stands. */
  people(part: string, rule: Rule): string[];
  outside(part: string, rule: Rule): { name: string; email: string }[];
  /**
   * The account of whoever has an address: theirs who works here, else one for this request. Null where whoever had it
   * works here no more.
   * @param from the formulas it comes from, that of the address first
   * @throws where it is no address
   */
  atAddress(
    who: { name: string; email: string },
    from: readonly { part: string; text: string }[],
  ): string | null;
  /** What a formula of this rule comes to; `part` as in its formulas. */
  value(part: string, text: string): Value;
}

/** The office, as far as rules can be checked against it. */
export interface OfficeFacts {
  people: readonly { id: string; name: string; manager: string | null; jobTitle?: string }[];
  groups: Readonly<Record<string, readonly string[]>>;
  /** How many hold each. */
  duties: Readonly<Record<string, number>>;
  calendars: readonly string[];
  /** Addresses of mailboxes. */
  mailboxes: readonly string[];
  /** What the chat room is called; absent where there is none. */
  chat?: string;
  /** Where documents can be brought; absent where nothing is known of it. */
  outlets?: readonly Outlet[];
  /** Keys of the registers of which something is open to people outside. */
  opened?: readonly string[];
}

export interface RuleProblems {
  office: OfficeFacts;
  /** What a step is called that can be answered; null for none. */
  asking(step: string): string | null;
  /** Whether somebody else is named for when nobody is found. */
  saved: boolean;
  /** Whether there is a mailbox to write from; of a procedure that is its caller's. */
  mailbox: boolean;
  say: Say;
}

/** Everything about a kind of rule that is pure. */
export interface RuleBehaviour<K extends RuleKind = RuleKind, R = RuleParts[K]> {
  /** As the picker offers it. */
  says: string;
  blank(): R;
  /** Whether it says yet who is meant. @param empty the same of a rule within it */
  empty(r: R, empty: (r: Rule) => boolean): boolean;
  /** `place` is where the rule stands: "who", "fallback", "rung 1". */
  formulas(r: R, place: string, says: string, walk: FormulaWalk, reach?: "addresses"): R;
  /** Person ids, unfiltered. */
  people(r: R, turn: RuleTurn): string[];
  /** Somebody outside who is meant, to be written to. */
  outside?(r: R, turn: RuleTurn): { name: string; email: string }[];
  /** Steps it names; absent of kinds that name none. */
  steps?(r: R, at: (id: string) => string): R;
  problems(r: R, ctx: RuleProblems): void;
  words(r: R, names: RuleNames): string;
}

/** What the words of a rule may use. */
export interface RuleNames {
  person(id: string): string;
  /** What a step is called. */
  step(id: string): string;
  inRung: boolean;
  /** The words of a rule within it. */
  rule(r: Rule): string;
}
