import type { Rule } from "@/rules/shapes";
import type { Type } from "../expression";
import type { Port } from "./port";
import type { Asks, Limit, Rung } from "../route/asking";

/** What a formula must come to: a type, or whatever a field or a column of a register takes. */
export type Wants =
  | Type
  | { field: string }
  /** Several of what a field or column takes, or one. */
  | { listOf: string }
  | { column: string; of: string }
  /** A value of a procedure; null where it takes none such. */
  | { port: Port | null };

/**
 * Which names a formula reads: those of the route where its step stands, those of the form alone, those of its own rounds, those of each thing
 * its rounds may go over, a row's columns or those of a register (before a row's, where it stands in one) or each
 * thing of a list (`as` a name) before them, or only a record's.
 */
export type Reads =
  | "route"
  | "form"
  | "rounds"
  | "items"
  /** The mail that starts one, and nothing else. */
  | "mail"
  | { rowsOf: string }
  | { columnsOf: string; rowsOf?: string }
  | { eachOf: string; as: string }
  /**
   * Each thing of lists within one another, the outermost first: its entries by their own names, itself as `item`, and
   * which of them it is as `number`.
   */
  | { eachIn: readonly string[] }
  /** Unary tests of what a formula of the route comes to, which they may read as `?`. */
  | { tests: string }
  /** `before`: with the record as it was, by that name. */
  | { recordOf: string; before?: true };

/** Where the rules stand whose people a step never asks. */
export const neverPlace = (i: number): string => `never ${i + 1}`;

/** One place where a formula stands. */
export interface Spot {
  /** Within its owner: "way small", "value status", "record". Compiled formulas are found by it. */
  place: string;
  /** What stands there, for a reader: "the condition of the way “small”". */
  says: string;
  wants: Wants;
  reads?: Reads;
  /** One of several that are tried one after the other. */
  inOrder?: true;
  /** What it comes to is only gone through: each thing of it is read by formulas beside it. */
  goneThrough?: true;
}

/**
 * Passes over the formulas of a part of a definition and puts back what it is given. Checking, compiling,
 * renaming and where-used all come from the same walk, so that none can know a place another does not.
 * What is absent or empty is left alone.
 */
export interface FormulaWalk {
  formula<T extends string | undefined>(spot: Spot, text: T): T;
  /** A text with {formulas}. */
  template(spot: Omit<Spot, "wants">, text: string): string;
  /** @param reach absent: people. "addresses": whoever can be written to, also by what formulas come to */
  rule<T extends Rule | undefined>(place: string, says: string, rule: T, reach?: "addresses"): T;
  limit<T extends Limit | undefined>(limit: T): T;
  /** The rungs of a limit, or of a ladder kept by name. */
  rungs(rungs: Rung[]): Rung[];
  /** Who a step asks, and its limit. */
  asks<S extends Asks>(s: S): S;
}
