import type { StartKind, StartOf } from "@/starts/shapes";
import type { FormulaWalk } from "./places";
import type { Say } from "./say";

/** Who asks, as far as a start can tell whether they may. */
export interface Asker {
  department: string;
  groups: readonly string[];
}

/** Everything about a kind of start that is pure. */
export interface StartBehaviour<K extends StartKind = StartKind, S = StartOf<K>> {
  /** As the picker offers it. */
  says: string;
  /** The same behind “let”: "somebody fill in the form". */
  offer: string;
  blank(id: string): S;
  /** Whether somebody may start by it through the form; false where people do not start it. */
  mayStart(s: S, asker: Asker): boolean;
  /** By key, the processes and procedures whose steps may start one by it; absent where no step can. */
  lets?(s: S): "any" | readonly string[];
  formulas(s: S, walk: FormulaWalk): S;
  problems(s: S, ctx: { groups: Readonly<Record<string, readonly string[]>> | null; say: Say }): void;
  /** The sentence on the route sheet: "anybody fills in the form and sends it". */
  words(s: S): string;
}
