import type { Node } from "./ast";
import type { Code } from "./run";

/** A name given inside a formula and where its value is kept while it runs. */
export interface Binding {
  slot: number;
  /** Names inside a filter or a context: looked up in the item first, then outside. */
  item: boolean;
  name: string;
  /** A list that still grows: reading it gives a copy. */
  growing?: true;
}
export type Bound = readonly Binding[];

/** What the code of loops and calls needs of whoever compiles what stands inside them. */
export interface CodeMaker {
  /** How many places for bound names the formula needs. */
  slots: number;
  code(n: Node, bound: Bound): Code;
  name(n: { name: string }, bound: Bound): Code;
  lookUp(name: string, bound: Bound, outer: Code): Code;
}
