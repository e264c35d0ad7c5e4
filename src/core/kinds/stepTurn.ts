import type { Rule } from "@/rules/shapes";
import type { NewsOf, StepKind, WorkOf } from "@/steps/shapes";
import type { Length } from "../calendar";
import type { Clause, Names, Value } from "../expression";
import type { FormData, StoredRow } from "../form";
import type { DocumentTemplate, Filled } from "../document";
import type { WrittenLetter } from "../letter";
import type { Kept, StoredValue } from "./kept";
import type { Receiver } from "./receiver";
import type { SignedPaper } from "./signedPaper";

export interface Held {
  yes: boolean;
  /** It comes to nothing, because something it reads is empty; then it does not hold. */
  empty: boolean;
  /** Clause by clause, with the values put in. */
  why: Clause[];
}

/** What a kind of step may see and do of the turn: names, values, and events of its own. Tokens are the engine's. */
export interface StepTurn<K extends StepKind = StepKind> {
  names(): Names;
  /** The rows of line items, each as names: its columns before the names of the route. */
  rows(lines: string): Names[];
  /**
   * What the formula at a place of this step comes to; null where there is none. Where it cannot be worked out the
   * token is stuck at this step with the reason, and the kind is not come back to.
   * Throws for a place the kind has not named among its formulas: that is a mistake in the kind.
   */
  value(place: string, text: string | undefined, names?: Names): Value;
  /** The same as it is kept in a field of the form, or in a column of a register. */
  valueForField(place: string, text: string, field: string, names?: Names): string | boolean | null;
  valueForColumn(
    place: string,
    text: string,
    column: { register: string; id: string },
    names: Names,
  ): string | boolean | null;
  /** Whether a condition holds. */
  holds(place: string, text: string): Held;
  text(place: string, template: string): string;
  /** The same for a thing of a list, where what cannot be worked out leaves no gap: the token is stuck at this step with the reason. */
  exactly(place: string, template: string, names: Names): string;
  /** The things of the list that a formula comes to, each as names: its entries before the names of the route. */
  each(place: string, text: string): Names[];
  /** The moment of the command, in epoch milliseconds. */
  now(): number;
  /** The moment a length from now, by the process's calendar; null where that is never open. */
  after(length: Length): number | null;
  /** A date's beginning where the process's calendar is, or the moment of a date and time; null for nothing. */
  momentOf(value: Value): number | null;
  people(place: string, rule: Rule): string[];
  /** The same to be written to, and whom the rule means outside. */
  receivers(place: string, rule: Rule): Receiver[];
  /** Whom of those a rule finds a notice cannot reach, and a letter does: whoever follows their request from outside. */
  hearers(place: string, rule: Rule): Receiver[];
  /** Whether a text with values, or a formula, tells of something that is hidden from somebody. */
  tellsHidden(place: string, text: string, isFormula?: "formula"): boolean;
  /**
   * A letter with the values put in, and whether it tells of something that is hidden from somebody. Where it cannot be
   * worked out the token is stuck at this step with the reason.
   */
  letter(id: string): { subject: string; letter: WrittenLetter; hidden: boolean };
  /**
   * What stands in the places of a template, in order. Where anything of it cannot be worked out the token is stuck at this step with the reason.
   */
  document(id: string): { template: DocumentTemplate; filled: Filled[] };
  /** What was signed here with the signature that stands in a field; null where nothing was. */
  signed(field: string): SignedPaper | null;
  /** The rows of line items as they are kept, each with its names. */
  lines(field: string): { row: StoredRow; names: Names }[];
  /** Ids for so many new rows of line items. */
  newRows(field: string, count: number): string[];
  /** What a field is called. */
  fieldName(field: string): string;
  /** Sets values of the form. */
  set(values: FormData): void;
  /** The rows of line items, each with how a round keeps it. */
  items(lines: string): { item: StoredValue; value: Value }[];
  /**
   * A value as it can be kept and read again later.
   * Where it cannot (a function, too much), the token is stuck at this step with the reason.
   */
  stored(place: string, text: string, value: Value): StoredValue;
  /** Puts files into a field of the form: beside those that are there where it takes several, else in the place of the one. */
  keepFiles(field: string, ids: readonly string[]): void;
  /** Keeps what formulas read by the name of the step from now on; only for kinds that give one. */
  keep(kept: Kept): void;
  /** Puts something on the trail. */
  did(news: NewsOf<K>): void;
  /** Has something done that the token does not wait for. */
  send(work: WorkOf<K>): void;
}
