import type { Type } from "./types";

/** What a name in a formula leads to. */
export type Target =
  /** A name of the scope: a field, a column of the row the formula stands in, a step, Requester. */
  | { t: "name" }
  /** An entry of what `of` names: the row of some line items (`rows f3`), a record (`record Objects`), a plain group (""). */
  | { t: "entry"; of: string }
  /** Given inside the formula, by what stands at `at`: a loop, a function, a group of values, a filter. */
  | { t: "local"; at: number }
  | { t: "function" }
  /** Nothing is called so. */
  | { t: "nothing" }
  /**
   * What it is read from is not known before the formula runs; with `outside` it may also be a name of the scope, with
   * `among` it is an entry of a record of one of these registers.
   */
  | { t: "unknown"; outside: boolean; among?: readonly string[] };

/** One place where a formula reads something by its name; `quoted` where the name is given as a text to a function. */
export interface Reference {
  name: string;
  from: number;
  to: number;
  target: Target;
  quoted?: true;
}

/**
 * A place where whole groups of values are used and not only entries by their names: their text, their entries as a
 * list, a comparison with something else. `of` as in `Target`, "*" where it may be anything.
 */
export interface WholeUse {
  of: string;
  from: number;
  to: number;
}

/** All that a formula reads, in order of its text. */
export interface Reads {
  references: readonly Reference[];
  wholes: readonly WholeUse[];
}

export const ownerOf = (t: Extract<Type, { t: "context" }>): string => {
  if (t.rows !== undefined) return `rows ${t.rows}`;
  return t.what === undefined ? "" : `record ${t.what}`;
};

/** The groups of values a value of this type may hold, as `of` of a whole use. */
export function ownersIn(type: Type, depth = 0): ReadonlySet<string> {
  const out = new Set<string>();
  const visit = (t: Type, deep: number): void => {
    if (deep > 6 || t.t === "any" || t.t === "function") out.add("*");
    else if (t.t === "list" || t.t === "range") visit(t.of, deep + 1);
    else if (t.t === "context" && t.among) {
      for (const register of t.among) out.add(`record ${register}`);
    } else if (t.t === "context") {
      if (t.open) out.add("*");
      out.add(ownerOf(t));
      // What a person or record holds is not the form's, and a record may lead to ever more of them.
      if (t.what === undefined) for (const f of Object.values(t.fields)) visit(f, deep + 1);
    }
  };
  visit(type, depth);
  return out;
}

const isRecord = (t: Type): boolean =>
  t.t === "list" ? isRecord(t.of) : t.t === "context" && (t.what !== undefined || t.among !== undefined);

/** Collects what a formula reads while its types are found. */
export class ReadsCollector {
  private readonly references = new Map<string, Reference>();
  private readonly wholes = new Map<string, WholeUse>();

  read(reference: Reference): void {
    this.references.set(`${reference.from} ${reference.name}`, reference);
  }

  whole(at: { from: number; to: number }, type: Type): void {
    for (const of of ownersIn(type))
      if (of !== "") this.wholes.set(`${at.from} ${at.to} ${of}`, { of, from: at.from, to: at.to });
  }

  /** Two values held against each other: of the same group of values names do not matter, of others they do. */
  compared(at: { from: number; to: number }, a: Type, b: Type): void {
    // Records are the same by which they are, whatever they hold.
    if (isRecord(a) && isRecord(b)) return;
    const [left, right] = [ownersIn(a), ownersIn(b)];
    if (left.size === 0 || right.size === 0) return;
    const same = left.size === 1 && right.size === 1 && [...left][0] === [...right][0];
    if (same && !left.has("*") && !left.has("")) return;
    this.whole(at, a);
    this.whole(at, b);
  }

  all(): Reads {
    const inOrder = (a: { from: number }, b: { from: number }) => a.from - b.from;
    return {
      references: [...this.references.values()].sort(inOrder),
      wholes: [...this.wholes.values()].sort(inOrder),
    };
  }
}
