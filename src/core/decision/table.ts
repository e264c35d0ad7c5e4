/**
 * What becomes of the rules that hold (DMN 1.5, 8.2.11). unique: no more than one may. any: several may that come to the
 * same. first: the one standing first. priority: the one whose outputs rank highest. collect, rule order: all of them.
 * output order: all of them, the highest first.
 */
export type HitPolicy = "unique" | "any" | "first" | "priority" | "collect" | "rule order" | "output order";
/** What all that hold come to together, with `collect`; absent: a list of them. */
export type Gathered = "sum" | "min" | "max" | "count";

export interface TableInput {
  id: string;
  formula: string;
  /** It may not be empty: where it is, nothing is decided. */
  needed?: true;
}

/** What an output takes; `anything` is what formulas come to: people, records, lists. */
export type OutputKind = "text" | "number" | "yes or no" | "date" | "anything";
export interface TableOutput {
  id: string;
  /** It is read by this name behind that of the table. */
  name: string;
  kind: OutputKind;
  /** The texts there are; the highest stands first. */
  values?: string[];
}

export interface TableRule {
  id: string;
  /** Unary tests of inputs, by id; one that is not tested holds for anything. */
  when: CellTest[];
  then: CellValue[];
  note?: string;
}
export interface CellTest {
  input: string;
  test: string;
}
/** What an output comes to, as a formula; one of which nothing is said is empty. */
export interface CellValue {
  output: string;
  value: string;
}

/** Rules by inputs and outputs, as data: what each comes to is asked of whoever works them out. */
export interface DecisionTable {
  inputs: TableInput[];
  outputs: TableOutput[];
  hits: HitPolicy;
  gathers?: Gathered;
  rules: TableRule[];
  /** What it comes to where no rule holds. */
  otherwise?: CellValue[];
  /** Where no rule holds, and nothing is said for that, it comes to nothing; absent: it is an error. */
  none?: "empty";
}

export const MOST_RULES = 1000;
export const MOST_INPUTS = 20;
export const MOST_OUTPUTS = 10;

/** Whether it comes to a list: all the rules that hold, each on its own. */
export const givesList = ({ hits, gathers }: Pick<DecisionTable, "hits" | "gathers">): boolean =>
  hits === "rule order" || hits === "output order" || (hits === "collect" && gathers === undefined);

/** Whether outputs rank, by the order of their values. */
export const ranks = (hits: HitPolicy): boolean => hits === "priority" || hits === "output order";
