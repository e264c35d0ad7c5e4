import type { RungKind, RungParts } from "@/rungs/shapes";
import type { Rule } from "@/rules/shapes";
import type { AnswerChoice } from "../route/asking";
import type { FormulaWalk } from "./places";
import type { Receiver } from "./receiver";
import type { Say } from "./say";

/** What a rung may see of the visit it fires for. */
export interface RungTurn {
  number: string;
  step: string;
  /** Who has the open tasks: holders, else all who may take one. */
  waiting: readonly string[];
  /** People a rule of this rung finds, for the first open task or the one given; `asks`: they are to be asked. */
  people(rule: Rule, how?: { task?: string; asks?: true }): string[];
  /** Whom a rule of this rung finds to be written to, outside too. */
  receivers(rule: Rule): Receiver[];
  /** @param part which of its texts: "text", "subject" */
  text(part: string, template: string): string;
  /** Open tasks, oldest first. */
  tasks: readonly string[];
}

/** What a rung has done; the engine applies cover and "never the requester", and raises the events. */
export type RungDeed =
  /** By a notice; with a letter by that, in a mail. `reminds`: of what waits for them. */
  | { do: "tell"; to: Receiver[]; subject: string; text: string; letter?: string; reminds?: true }
  | { do: "ask"; people: string[] }
  | { do: "move"; moves: { task: string; people: string[] }[] }
  | { do: "answer"; answer: string; note: string };

/** Everything about a kind of rung action that is pure. */
export interface RungBehaviour<K extends RungKind = RungKind, A = RungParts[K]> {
  /** As the picker offers it. */
  says: string;
  /** The trail's line when it fired and somebody was found; null where other events say it already. */
  firedWords: string | null;
  blank(answers: readonly AnswerChoice[]): A;
  /** Whether a step with these answers can have it. */
  fits(answers: readonly AnswerChoice[]): boolean;
  /** It may be about several steps: at the limit of a part, or of the whole request. Absent: of one step alone. */
  ofMany?: true;
  /** `place` is where the rung stands: "rung 1". */
  formulas(a: A, place: string, walk: FormulaWalk): A;
  problems(a: A, answers: readonly AnswerChoice[], say: Say): void;
  fire(a: A, turn: RungTurn): RungDeed;
  /** The answer it gives on behalf of those asked; absent of kinds that give none. */
  answers?(a: A): string;
  /** The letter it sends; absent of kinds that send none. */
  letter?(a: A): string | undefined;
  /** For the ladder strip. */
  words(a: A, rule: (r: Rule) => string): string;
}
