import type { Rule } from "@/rules/shapes";
import type { RungAction } from "@/rungs/shapes";
import type { Length, LengthUnit } from "../calendar";

/** Who is asked at a step, and how many of them count. */
export interface Assignment {
  rule: Rule;
  /**
   * one: a single task that any of those found may take. first: everybody is asked, the first answer counts.
   * all: everybody must agree, by the tone of their answer. share: that part of them must; number: so many.
   * order: as all, one after another in the order in which they are found.
   */
  how: "one" | "first" | "all" | "share" | "number" | "order";
  /** Percent, with `share`. */
  share?: number;
  /** With `number`. */
  number?: number;
  /** Id of the answer that so many must give; absent: any that agrees by its tone. */
  wins?: string;
  /** Nothing is decided before everybody has answered; absent: as soon as it is certain. */
  waits?: true;
  /** Of answers given as often the one standing first; absent: the one standing last. */
  ties?: "first";
  fallback?: Rule;
  /** Whether the requester may answer; never, unless said. */
  requesterToo?: boolean;
  /** Whom these find is never asked, whatever else finds them: who answered an earlier step, for another pair of eyes. */
  never?: Rule[];
  /** Of several one is asked: whose turn it is, or who has the fewest open tasks. Absent: all of them. */
  turns?: Turns;
  /** Whoever is asked may answer several requests at once, from their desk, without looking at each. */
  atOnce?: true;
  /** In the place of whoever may not be asked their manager is, or the first above who may; absent: nobody. */
  instead?: "manager";
}

/** How one of several is chosen. */
export type Turns = "in turn" | "fewest open";

/**
 * How long it may take by a rule: a length, or what a formula comes to, no longer than `most`. A day is the end of its
 * work; one on which nobody works is the end of the last before it.
 */
export type RuleLength = Length | FormulaLength;
export type FormulaLength = { formula: string; most?: Length } & (
  | /** So many of a unit. */
    { by: "count"; unit: LengthUnit }
    /** A length of time by the clock. */
  | { by: "lasting" }
  | { by: "day" }
  | { by: "moment" }
);

export interface LimitRule {
  when: string;
  /** One whose formula comes to nothing says nothing: the next rule is tried. */
  length: RuleLength;
}

/** From when a limit counts; where its formula comes to nothing, from when the step opens. A day is its beginning. */
export type LimitFrom = { by: "start" } | { by: "day" | "moment"; formula: string };

/** The places of the formulas of a limit. */
export const LIMIT_PLACES = {
  when: (rule: number): string => `limit ${rule}`,
  length: (rule: number): string => `limit ${rule} length`,
  from: "limit from",
} as const;

export interface Rung {
  id: string;
  /** Relative to the limit. `at` needs no length. */
  when: "before" | "at" | "after";
  length?: Length;
  /** What must hold by then for it to happen; absent: nothing. */
  if?: string;
  every?: Length;
  times?: number;
  action: RungAction;
}

export interface Limit {
  /** Absent: from when the step opens. */
  from?: LimitFrom;
  /** First rule that holds gives the length; `otherwise` when none does. */
  rules?: LimitRule[];
  otherwise: Length;
  rungs: Rung[];
  /** Id of a ladder kept by name, in the place of rungs of its own. */
  ladder?: string;
  /** It stands still while whoever asked for the request is asked something beside the step, or while anybody is. */
  still?: "asker" | "anybody";
}

/** The places of the formulas of a rung; what its action has of its own stands behind the first. */
export const rungPlaces = {
  of: (rung: string): string => `rung ${rung}`,
  if: (rung: string): string => `rung ${rung} if`,
} as const;

/** Rungs kept by name, for the limits of any steps. */
export interface Ladder {
  id: string;
  name: string;
  rungs: Rung[];
  /** The one kept for all processes that it was taken from, and how that was then. */
  from?: { ladder: string; version: number };
}

export type Tone = "agree" | "refuse" | "plain";

/** A field or column in which, at this step, nothing but what a formula comes to can be chosen. */
export interface Offer {
  field: string;
  of: string;
}

/** What is signed at a step, besides the form. */
export interface Signing {
  /** Id of the step that draws it up, or has it signed before. */
  document: string;
  /** Id of the field for the signature. */
  field: string;
  /** Id of a field for files that keeps what was signed. */
  into?: string;
}

/** Where the formula of what is offered in a field stands. */
export const offerPlace = (field: string): string => `offers ${field}`;

/** How those who are asked are written to, and how they may answer from there. */
export interface AskMail {
  /** Texts with {formulas}: what it is about, as they are to know it. */
  subject: string;
  text: string;
  /** By a link that opens a page to press on: for whoever is signed in as the one asked, or for whoever has the mail. */
  link?: "signed in" | "free";
  /** By a reply whose first line is one of the words that stand for an answer. */
  reply?: true;
  /** A letter in the place of both texts. */
  letter?: string;
  /** By messages in the chat room, with the answers to press there: beside mail, or in its place. Absent: by mail. */
  by?: "mail and chat" | "chat";
  /** Ids of fields that are filled in there, beside the answer. */
  fills?: string[];
}
/** By which ways those asked are written to. */
export const asksBy = ({ by }: Pick<AskMail, "by">): { mail: boolean; chat: boolean } => ({
  mail: by !== "chat",
  chat: by !== undefined,
});
/** Where the texts of that stand. */
export const ASK_MAIL_PLACES = { subject: "mail subject", text: "mail text" } as const;

/** What every step that asks people has. */
export interface Asks {
  who: Assignment;
  limit?: Limit;
  offers?: Offer[];
  /** They are written to as well; absent where they are told on their screens alone. */
  byMail?: AskMail;
}

/** One thing a person can say at a step. */
export interface AnswerChoice {
  id: string;
  label: string;
  tone: Tone;
  note?: "must";
  /** Words that stand for it in a reply, beside its label: "yes, ok, agreed". */
  words?: string;
  /** Whoever gives it has no say; it counts where nobody has. */
  abstains?: true;
  /** Goes back to the requester for changes and then to this step again. */
  returns?: true;
  /** Nobody can give it but the ladder, and owners who choose the way on: what happens where nobody answers. */
  byLadder?: true;
  /** Ids of copied and fixed fields and columns that are read anew as it is pressed. */
  anew?: string[];
}
