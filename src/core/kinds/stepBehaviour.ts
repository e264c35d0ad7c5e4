import type {
  BeginningKind,
  CallingKind,
  EffectKind,
  GivingKind,
  KeptKind,
  NewsOf,
  ReasonOf,
  ResultOf,
  RoundsKind,
  SleepingKind,
  StepKind,
  StepWork,
  WaitingKind,
  WorkOf,
} from "@/steps/shapes";
import type { Registers, RuleOccasion } from "../form";
import { ANY, type Scope, type Type, type Value } from "../expression";
import type { StoredValue } from "./kept";
import type { AnswerChoice, AskMail, Assignment, Limit, Offer, Signing, Tone } from "../route/asking";
import type { ProcessDefinition, Step, StepOf } from "../route/definition";
import type { Edit } from "../route/edit";
import type { OfficeFacts } from "./ruleBehaviour";
import type { Say } from "./say";
import type { Called, Next, NewsWords, TrailNames, TrailWords } from "./next";
import type { FormulaWalk } from "./places";
import type { LiveProcedure, Port, Ports } from "./ports";
import type { Receiver } from "./receiver";
import type { StepTurn } from "./stepTurn";

/** One entry of the lists a step holds: an answer, a way, a branch. */
export interface ListHolder {
  id: string;
  steps: Step[];
}
type HeldBy<S> = {
  [P in keyof S]-?: S[P] extends ListHolder[] ? P : never;
}[keyof S] &
  string;
type Held<S> = HeldBy<S> extends never ? never : S[HeldBy<S>] extends (infer H)[] ? H : never;

/** How a kind of step holds lists of steps. */
export interface StepLists<S = Step, H = Held<S>> {
  /** The property that holds them. */
  in: HeldBy<S>;
  /** One of them, in a word: "way". */
  one: string;
  name(held: H): string;
  /** Whether nothing goes on from here: it leads back to who asked. */
  back(held: H): boolean;
  /** A new one; `count` are there already. */
  blank(id: string, count: number): H;
  /** Where a new one goes; behind the last unless said. */
  at(s: S): number;
  /** How many there may be, and must; absent for any number. */
  most?: number;
  least?: number;
  /** Whether each runs with a token of its own, all at the same time. */
  sideBySide: boolean;
  /** Whether a token may go on behind the step without going through any of them. */
  passedBy: boolean;
  /** Where the token may go on before all of them have ended; absent where it waits for all. */
  joins?: Joins<S>;
}

/** When what waits for branches goes on, and what becomes of those that have not ended. */
export interface Joins<S = Step> {
  /**
   * Asked when a branch has ended.
   * @param ended how many have by then
   */
  enough(turn: StepTurn, s: S, ended: number): boolean;
  /** Whether it may go on before all of them. */
  early(s: S): boolean;
  /** Whether the others go on beside what follows; else they are called off. */
  othersRunOn(s: S): boolean;
}

/** An answer to what a step sent: its words, who wrote it by address, and ids of its files. */
export interface Reply {
  text: string;
  by: string;
  /** Whether the receiving server vouches for who wrote it. */
  vouched: boolean;
  files: readonly string[];
}

/** What a kind of step that asks people says of it. */
export interface StepAsks<S = Step> {
  purpose: "decide" | "complete";
  /** What the person does: "answers". */
  verb: string;
  who(s: S): Assignment;
  limit(s: S): Limit | undefined;
  offers(s: S): readonly Offer[] | undefined;
  byMail(s: S): AskMail | undefined;
  answers(s: S): AnswerChoice[];
  /** What follows once the step has been decided. @param turn absent where nobody did: it is only told, or an owner chose */
  answered(s: S, answer: string, turn?: StepTurn): Next;
  /** What is signed there; absent of kinds, and null for steps, where nothing is. */
  signs?(s: S): Signing | null;
  /** Where the route does not wait for it: what becomes of it when the request ends first. Absent where it always waits. */
  beside?(s: S): "called off" | "stays" | null;
}

/** Where a step leads that never goes on behind itself. */
export type Exit = { to: string } | { ends: string; tone: Tone };

/** What the checker lets a kind look at. */
export interface StepProblems {
  definition: ProcessDefinition;
  registers: Registers;
  /** The names a formula of the route may read. */
  scope: Scope;
  /** Procedures that are live, by key; absent where nothing is known of them. */
  procedures: Readonly<Record<string, LiveProcedure>> | undefined;
  /** Absent where nothing is known of it. */
  office: OfficeFacts | undefined;
  /** Whether a jump to this step would be right. */
  reach(
    to: string,
  ): { ok: true } | { ok: false; why: "unknown" | "endless" } | { ok: false; why: "across"; number: string };
  say: Say;
}

/** Everything about a kind of step that is pure. No kind imports another, nor the engine. */
export type StepBehaviour<K extends StepKind> = StepBasics<K, StepOf<K>> &
  ([NewsOf<K>] extends [never] ? unknown : { news: NewsWords<K> }) &
  ([ReasonOf<K>] extends [never] ? unknown : { reasons: ReasonWords<ReasonOf<K>> }) &
  (K extends EffectKind
    ? {
        doneWords(result: ResultOf<K>, step: string, names: TrailNames): TrailWords;
        forget: Forget<WorkOf<K>, ResultOf<K>>;
        /** Whom what it asks for tells of the request. */
        tells(work: WorkOf<K>): readonly Receiver[];
      }
    : unknown) &
  (K extends KeptKind ? { kept(work: WorkOf<K>): ResultOf<K> } : unknown) &
  (K extends GivingKind
    ? {
        /** What formulas read by its name. */
        gives(s: StepOf<K>, types: GivenTypes): Type;
        /** Whether they do; absent where they always do. */
        isReadByName?(s: StepOf<K>): boolean;
      }
    : unknown) &
  (K extends RoundsKind ? { rounds: RoundsStep<K> } : unknown) &
  (K extends SleepingKind
    ? {
        /** What follows once the moment has come, or what was waited for. */
        woken(turn: StepTurn<K>, s: StepOf<K>, by: Woken): Next<K>;
        /** Whether what it waits for has come; asked again whenever anything that it read may have changed. */
        came?(turn: StepTurn<K>, s: StepOf<K>): boolean;
      }
    : unknown) &
  (K extends CallingKind ? { calls: CallsStep<K> } : unknown) &
  (StepOf<K> extends { register: string }
    ? {
        /** What it reads of its register besides by formulas. */
        searches(s: StepOf<K>): Searched;
      }
    : unknown) &
  ("limit" extends keyof StepOf<K>
    ? StepOf<K> extends { who: Assignment }
      ? unknown
      : {
          /** The limit of all that stands under it, where it asks nobody itself. */
          span(s: StepOf<K>): Limit | undefined;
        }
    : unknown) &
  (K extends BeginningKind ? { begins: BeginsStep<StepOf<K>> } : unknown) &
  (K extends WaitingKind ? WaitingStep<K> : unknown);

/** A register and those of its columns, by id, that something hangs on; what names a record is read in any case. */
export interface Searched {
  register: string;
  columns: readonly string[];
  /**
   * What it reads is read by others through it: the edit by which it says that this is all columns; null where it says so.
   * Absent where nobody reads anything through it.
   */
  all?: Edit | null;
}

/** Types of what a step may give. */
export interface GivenTypes {
  /** A record of a register. */
  record(register: string): Type;
  /** What a formula comes to in a round of this step. */
  inRounds(formula: string): Type;
  /** What a formula comes to where the step stands. */
  here(formula: string): Type;
  /** What a procedure or another process hands back. */
  port(p: Port): Type;
}

/** Types of what rounds may go over. */
export interface RoundTypes {
  /** A row of line items. */
  row(lines: string): Type;
  /** What a formula comes to where the step stands. */
  of(formula: string): Type;
  /** The same with names of a thing before those. */
  ofItem(formula: string, names: Scope): Type;
}
/** Where names are asked for and not their types. */
export const ANY_TYPES: RoundTypes = { row: () => ANY, of: () => ANY, ofItem: () => ANY };

/** A name that is known in the rounds of a step. `role` tells it from the others, whatever it is called. */
export interface RoundName {
  role: string;
  name: string;
  type: Type;
}
export interface RoundNow {
  /** What this round goes over; the number of the round where rounds are only counted. */
  item: Value;
  /** From 1. */
  number: number;
  of: number;
}

/** What a kind says that goes through a list again and again, each time with values of that round's own. */
export interface RoundsStep<K extends StepKind, S = StepOf<K>> {
  names(s: S, types: RoundTypes): readonly RoundName[];
  /** Names of each thing, while it is found out which of them rounds go over. */
  choosing(s: S, types: RoundTypes): readonly RoundName[];
  /** The step with the names that another version of it has, and nothing else of that. */
  called(s: S, as: S): S;
  value(s: S, role: string, round: RoundNow): Value;
  /** What one calls a round: "Object". */
  one(s: S): string;
  /** The part of what a round goes over that it is told by. */
  about(s: S, item: StoredValue): StoredValue;
  /** The formulas behind that; where everybody may not see what they read, rounds are told by number. */
  behind(s: S): { place: string; formula: string }[];
  /** A round has come to its end: what it leaves behind (undefined for nothing), and whether enough is known. */
  ended(turn: StepTurn<K>, s: S): { left: StoredValue | undefined; enough: boolean };
  /** All have ended, in the order of the rounds. */
  done(turn: StepTurn<K>, s: S, left: readonly StoredValue[]): Next<K>;
}

/** What ended a sleep: the moment, or what was waited for. An owner who lets it go on says which way, where there are several. */
export type Woken = "time" | "came";

/** What a kind says that hands to a procedure. */
export interface CallsStep<K extends StepKind, S = StepOf<K>> {
  /** Which; null where none is chosen. */
  to(s: S): Called | null;
  /** What it knows of the procedure, and which of what that takes it hands over; all that is handed back it reads. */
  knows(s: S): Ports & { given: ReadonlySet<string> };
  /** The procedure has ended. @param values of what it hands back, by field */
  came(turn: StepTurn<K>, s: S, result: string, values: ReadonlyMap<string, StoredValue>): Next<K>;
}

/** What a kind says that starts requests of other processes. */
export interface BeginsStep<S = Step> {
  /** The key of which; null where none is chosen. */
  to(s: S): string | null;
  /** What it knows of that process, which of what it takes is handed over, and what it reads afterwards. */
  knows(s: S): Ports & { given: ReadonlySet<string> };
}

/** What it asked for and what came of it, without anything a person may have filled in; who and which records stay. */
export interface Forget<W, R> {
  work(work: W): W;
  result(result: R): R;
}

/** Which records of a register a step writes how, and which of their columns. */
export interface RecordsWritten {
  register: string;
  does: readonly RuleOccasion[];
  columns: readonly string[];
}

interface WaitingStep<K extends WaitingKind> {
  /** What follows once what it waited for has been done. */
  done(turn: StepTurn<K>, s: StepOf<K>, result: ResultOf<K>): Next<K>;
  /** What a sample takes for the result, with nothing done. */
  rehearse(s: StepOf<K>): ResultOf<K>;
}

interface StepBasics<K extends StepKind, S> {
  verb: string;
  /** What the picker says it does. */
  says: string;
  /** A new one, ready to be written on. `id` is free, and free with a suffix. */
  blank(id: string): S;
  lists: [HeldBy<S>] extends [never] ? null : StepLists<S>;
  asks: S extends { who: Assignment } ? StepAsks<S> : null;
  /** Every formula of its own, in reading order; lists inside are walked by whoever walks the route. */
  formulas(s: S, walk: FormulaWalk): S;
  /** The letters it sends; absent of kinds that send none. */
  letters?(s: S): (string | undefined)[];
  /** The templates it draws something up from; absent of kinds that draw up nothing. */
  documents?(s: S): string[];
  /** Whether it comes to a PDF, whose pages can be shown and signed; absent of kinds that never do. */
  pages?(s: S): boolean;
  /** Places of its own texts that stand in what it draws up; absent of kinds of which none does. */
  draws?(s: S): readonly string[];
  /** Other steps it names. */
  steps(s: S, at: (id: string) => string): S;
  /** Fields it gives a value. */
  sets(s: S): string[];
  /** What it writes of records, where that may start requests; null where it starts none. */
  writes?(s: S): RecordsWritten | null;
  problems(s: S, ctx: StepProblems): void;
  /** Where it leads when it never goes on behind itself. */
  exit(s: S): Exit | null;
  /** Steps it may go to, always or on a condition; absent for none. */
  mayGo?(s: S): string[];
  /** Whether anything that enters may go on behind it; `list` tells the same of a list. */
  goesOn(s: S, list: (steps: readonly Step[]) => boolean): boolean;
  /** Whether it may go on with nothing under its name; absent for kinds that never find nothing. */
  mayBeNothing?(s: S): boolean;
  /** The place of the condition that alone ends it; null where something else may, too. */
  awaitsOnly?(s: S): string | null;
  /**
   * The one of its lists that is gone through where what it sent comes back, by a token of its own: the one that came has
   * gone on behind the step without it. Null for none.
   */
  late?(s: S): string | null;
  /** What it sent was answered; absent of kinds to which that means nothing. */
  replied?(turn: StepTurn<K>, s: S, reply: Reply, at: StoredValue): void;
  /** Nobody waits at it: what comes behind is what a reader wants to know. */
  passes: boolean;
  /** It is no step to anybody who reads or draws the route, only a heading over its one list: it has no number of its own. */
  heading?: true;
  /** @param again what it asked for could not be done, and is asked for again */
  enter(turn: StepTurn<K>, s: S, again?: boolean): Next<K>;
}
export type ReasonWords<R extends { code: string; data: unknown }> = {
  [C in R["code"]]: (data: Extract<R, { code: C }>["data"]) => string;
};

/** A kind as core meets it, knowing none by name. */
export interface AnyStep {
  verb: string;
  says: string;
  blank(id: string): Step;
  lists: AnyLists | null;
  asks: StepAsks | null;
  formulas(s: Step, walk: FormulaWalk): Step;
  letters?(s: Step): (string | undefined)[];
  documents?(s: Step): string[];
  pages?(s: Step): boolean;
  draws?(s: Step): readonly string[];
  steps(s: Step, at: (id: string) => string): Step;
  sets(s: Step): string[];
  writes?(s: Step): RecordsWritten | null;
  problems(s: Step, ctx: StepProblems): void;
  exit(s: Step): Exit | null;
  mayGo?(s: Step): string[];
  goesOn(s: Step, list: (steps: readonly Step[]) => boolean): boolean;
  mayBeNothing?(s: Step): boolean;
  awaitsOnly?(s: Step): string | null;
  late?(s: Step): string | null;
  replied?(turn: StepTurn, s: Step, reply: Reply, at: StoredValue): void;
  passes: boolean;
  heading?: true;
  enter(turn: StepTurn, s: Step, again?: boolean): Next;
  news?: NewsWords<StepKind>;
  reasons?: Readonly<Record<string, (data: never) => string>>;
  /** What follows once what it waited for has been done. */
  done?(turn: StepTurn, s: Step, result: ResultOf<EffectKind>): Next;
  /** What a sample takes for the result. */
  rehearse?(s: Step): ResultOf<EffectKind>;
  /** The trail's line about what was done for it. */
  doneWords?(result: ResultOf<EffectKind>, step: string, names: TrailNames): TrailWords;
  forget?: Forget<StepWork, ResultOf<EffectKind>>;
  tells?(work: StepWork): readonly Receiver[];
  gives?(s: Step, types: GivenTypes): Type;
  isReadByName?(s: Step): boolean;
  rounds?: AnyRounds;
  woken?(turn: StepTurn, s: Step, by: Woken): Next;
  came?(turn: StepTurn, s: Step): boolean;
  calls?: AnyCalls;
  begins?: BeginsStep;
  searches?(s: Step): Searched;
  span?(s: Step): Limit | undefined;
  /** What comes of work that is kept with the request. */
  kept?(work: StepWork): ResultOf<EffectKind>;
}
export interface AnyRounds {
  names(s: Step, types: RoundTypes): readonly RoundName[];
  choosing(s: Step, types: RoundTypes): readonly RoundName[];
  called(s: Step, as: Step): Step;
  value(s: Step, role: string, round: RoundNow): Value;
  one(s: Step): string;
  about(s: Step, item: StoredValue): StoredValue;
  behind(s: Step): { place: string; formula: string }[];
  ended(turn: StepTurn, s: Step): { left: StoredValue | undefined; enough: boolean };
  done(turn: StepTurn, s: Step, left: readonly StoredValue[]): Next;
}
export interface AnyCalls {
  to(s: Step): Called | null;
  knows(s: Step): Ports & { given: ReadonlySet<string> };
  came(turn: StepTurn, s: Step, result: string, values: ReadonlyMap<string, StoredValue>): Next;
}
export interface AnyLists {
  in: string;
  one: string;
  name(held: ListHolder): string;
  back(held: ListHolder): boolean;
  blank(id: string, count: number): ListHolder;
  at(s: Step): number;
  most?: number;
  least?: number;
  sideBySide: boolean;
  passedBy: boolean;
  joins?: AnyJoins;
}
export interface AnyJoins {
  enough(turn: StepTurn, s: Step, ended: number): boolean;
  early(s: Step): boolean;
  othersRunOn(s: Step): boolean;
}
