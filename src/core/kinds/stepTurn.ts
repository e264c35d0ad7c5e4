import type { Rule } from "@/rules/shapes";
import type { NewsOf, StepKind, WorkOf } from "@/steps/shapes";
import type { Clause, Names, Value } from "../expression";
import type { FormData } from "../form";

/** What a kind of step may see and do of the turn: names, values, and events of its own. Tokens are the engine's. */
export interface StepTurn<K extends StepKind = StepKind> {
  names(): Names;
  /** The rows of line items, each as names: its columns before the names of the route. */
  rows(lines: string): Names[];
  /**
   * What the formula at a place of this step comes to; null where there is none.
   * Throws for a place the kind has not named among its formulas: that is a mistake in the kind.
   */
  value(place: string, text: string | undefined, names?: Names): Value;
  /** Whether a condition holds, clause by clause. */
  holds(place: string, text: string): { yes: boolean; why: Clause[] };
  text(place: string, template: string): string;
  people(place: string, rule: Rule): string[];
  /** Sets values of the form. */
  set(values: FormData): void;
  /** Puts something on the trail. */
  did(news: NewsOf<K>): void;
  /** Has something done that the token does not wait for. */
  send(work: WorkOf<K>): void;
}
