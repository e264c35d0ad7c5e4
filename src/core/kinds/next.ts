import type { Tone } from "../route/asking";
import type { StoredValue } from "./kept";
import type { Clause } from "../expression";
import type { NewsOf, ReasonOf, StepKind, WaitingKind, WorkOf } from "@/steps/shapes";

/** Where a token goes from a step: what a kind of step answers when it is entered, answered or served. */
export type Next<K extends StepKind = StepKind> =
  /** Behind this step. */
  | { go: "on" }
  /** To the first step of one of its lists; behind the step when that is empty. */
  | { go: "into"; list: string }
  | { go: "to"; step: string }
  /** A token of its own for each of these lists; this one waits for all of them. */
  | { go: "side by side"; lists: string[] }
  /** Goes through a list once for each of these, or so many times, as its `rounds` says; waits for all of them. */
  | ({ go: "rounds" } & RoundsToGo)
  /** Asks people, as its `asks` says. */
  | { go: "asks" }
  /** Waits until this has been done. */
  | { go: "waits"; work: WorkOf<K & WaitingKind> }
  /**
   * Sleeps until this moment, in epoch milliseconds (null for none), or until what the kind waits for has come; by kinds
   * that say what follows then.
   */
  | { go: "sleeps"; until: number | null; awaits?: true }
  /** Goes through a procedure; by kinds that say what follows then. */
  | ({ go: "calls" } & CallToGo)
  | { go: "stuck"; reason: ReasonOf<K> }
  | { go: "end"; result: string; tone: Tone };

/** A procedure that is handed to. */
export interface Called {
  /** Its key. */
  procedure: string;
  /** The version it is fixed to; null for what is live when it is entered. */
  version: string | null;
}
export interface CallToGo extends Called {
  /** What fields of the procedure are given; each formula stands at its place of this step. */
  inputs: readonly { field: string; place: string; formula: string }[];
}

/** What rounds go over, fixed before the first. */
export interface RoundsToGo {
  list: string;
  items: readonly StoredValue[] | number;
  /** How many may be under way at once; null for all. */
  atOnce: number | null;
  /** Whether one that is stuck holds up those that are not opened yet. */
  stuckHolds: boolean;
}

/** What a kind puts on the trail by itself, in words. */
export interface TrailWords {
  text: string;
  why?: Clause[];
  quiet?: true;
}
export interface TrailNames {
  person(id: string): string;
  /** Whether the reader is one who can mend what is stuck. */
  mends: boolean;
  /** A task, as far as lines about it need; null where it is not known. */
  task(id: string): {
    step: string;
    holder: string | null;
    candidates: readonly { person: string; for?: string }[];
    /** What it is asked beside another; absent where it is the step's. */
    question?: unknown;
  } | null;
  step(id: string): string;
  time(ms: number): string;
  /** Whether the reader may know what records of a register are called; of all registers where it is not told which. */
  namesRecords(register: string | null): boolean;
  /** What is told of a procedure, and the step that hands to it; null where nothing is known of it. */
  inCall(call: string): {
    step: string;
    procedure: string;
    /** The id of the release it is on. */
    release: string;
    names: TrailNames;
  } | null;
}
/** How the trail reads what a kind did. */
export interface NewsWords<K extends StepKind> {
  line(news: NewsOf<K>, step: string, names: TrailNames): TrailWords;
  /** What came of the step, on the path. */
  outcome(news: NewsOf<K>): string;
  /** Lists that were taken. */
  lists(news: NewsOf<K>): string[];
}
