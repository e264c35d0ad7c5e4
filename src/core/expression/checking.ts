import type { Node } from "./ast";
import type { Levels } from "./levels";
import type { FormulaProblem } from "./problem";
import type { ReadsCollector } from "./resolve";
import type { Type } from "./types";

interface At {
  from: number;
  to: number;
}

/** What the checking of calls needs of whoever checks what stands inside them. */
export interface Checking {
  readonly problems: FormulaProblem[];
  readonly reads: ReadsCollector;
  /** A name whose surroundings are asked for: the levels that are looked through for it, once it was met. */
  watched?: { name: string; levels: Levels | null };
  /** Whether a built-in may stand here without brackets, as in sort(). */
  functionsWelcome: boolean;
  say(at: At, code: FormulaProblem["code"], message: string, insert?: string): void;
  /** A part as it is written. */
  written(at: At): string;
  typeOf(n: Node, levels: Levels): Type;
  /** @param hints types of what it will be given, where they are known and it does not say itself */
  fn(n: Extract<Node, { k: "fn" }>, levels: Levels, hints: readonly Type[]): Type;
  /**
   * The type of an entry read by its name, and what the name leads to.
   * @param at where the name stands
   * @param of what it is read from, as written
   */
  entry(base: Type, name: string, at: At, of: string, quoted?: true): Type;
}
