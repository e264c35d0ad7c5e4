import type { StartKind, StartOf } from "@/starts/shapes";
import type { OnClosed, Timetable } from "../calendar";
import type { AfterSending, FieldKinds, Registers } from "../form";
import type { FilledByRecord, OfDates, OfEach, OfPress, OfRecords } from "../records/ofRecords";
import type { ProcessDefinition } from "../route/definition";
import type { FormulaWalk } from "./places";
import type { Say } from "./say";

/** Who asks, as far as a start can tell whether they may. */
export interface Asker {
  department: string;
  groups: readonly string[];
}

/** The days on which one starts by itself, and when on them. */
export interface DaysOf {
  days: Timetable;
  closed: OnClosed;
  at: string;
}

/** Which mail starts one. */
export interface OfMail {
  /** Condition over it; null for any that answers nothing. */
  when: string | null;
  /** What becomes of mail of somebody the office does not know, or whom nobody vouches for. */
  strangers: "take" | "hold" | "refuse";
  /** What they are told then. */
  refusal: string;
  values: readonly { field: string; value: string }[];
}

/** A form that people outside send without signing in. */
export interface OfOpen {
  /** Whose form it is, as it stands over the page. */
  letterhead: string;
  /** What is read before it, marked up as `prose` says. */
  greeting: string;
  /** What is asked of whoever sends it; "confirmed": an address they show to be theirs. */
  asks: "nothing" | "address" | "confirmed";
  /** Files can be added. */
  files: boolean;
  /** Those who work here are told by name. */
  staff: boolean;
  /** What was sent is read again where it is followed. */
  values: boolean;
}

/** What the problems of a start are looked for against. */
export interface StartProblems {
  groups: Readonly<Record<string, readonly string[]>> | null;
  /** Keys of the registers of which something is open to people outside; null where unknown. */
  opened: readonly string[] | null;
  registers: Registers;
  definition: Pick<ProcessDefinition, "fields" | "mailbox" | "access" | "procedure" | "forms">;
  kinds: FieldKinds;
  say: Say;
}

/** Everything about a kind of start that is pure. */
export interface StartBehaviour<K extends StartKind = StartKind, S = StartOf<K>> {
  /** As the picker offers it. */
  says: string;
  /** The same behind “let”: "somebody fill in the form". */
  offer: string;
  /** Whether a process may have more than one of it. */
  several: boolean;
  blank(id: string): S;
  /** Whether somebody may start by it through the form; false where people do not start it. */
  mayStart(s: S, asker: Asker): boolean;
  /** Whether somebody may press it on a record's page; with `ofPress`. */
  mayPress?(s: S, asker: Asker): boolean;
  /** By key, the processes and procedures whose steps may start one by it; absent where no step can. */
  lets?(s: S): "any" | readonly string[];
  formulas(s: S, walk: FormulaWalk): S;
  problems(s: S, ctx: StartProblems): void;
  /** Of which records it takes notice; absent for one that has nothing to do with what becomes of records. */
  ofRecords?(s: S): OfRecords;
  /** Which dates of records it takes notice of; absent for one that has nothing to do with dates. */
  ofDates?(s: S): OfDates;
  /** On which records it is offered to be pressed; absent for one that nobody presses. */
  ofPress?(s: S): OfPress;
  /** On which days it starts by itself; absent for one that goes by no timetable. */
  ofDays?(s: S): DaysOf;
  /** Which mail it takes; absent for one that takes none. */
  ofMail?(s: S): OfMail;
  /** For which records it makes one request each; null where it makes a single one. */
  ofEach?(s: S): OfEach | null;
  /** The form it opens to people outside; absent for one that opens none. */
  opens?(s: S): OfOpen;
  /** What comes once its form was sent; absent where nobody sends one. */
  afterSending?(s: S): AfterSending | null;
  /** What of a record fills in the form; null, or absent, where no record does. */
  fills?(s: S): FilledByRecord | null;
  /** The sentence on the route sheet: "anybody fills in the form and sends it". */
  words(s: S): string;
}
