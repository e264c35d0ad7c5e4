import { ownerOf, type Target } from "./resolve";
import type { Scope, Type } from "./types";

/** The names one part of a formula brings, or those of its scope: looked through from the innermost outwards. */
export interface Level {
  names: Scope;
  /** There may be other names here than these, or fewer: which only a run shows. */
  open: boolean;
  target(name: string): Target;
}
export type Levels = readonly Level[];

export const topLevel = (scope: Scope): Levels => [
  { names: scope, open: false, target: () => ({ t: "name" }) },
];

export const localLevel = (names: Scope, at: number): Level => ({
  names,
  open: false,
  target: () => ({ t: "local", at }),
});

/** Inside a filter: the entries of the item, and the item itself. */
export function itemLevel(item: Type, at: number): Level {
  const entries = item.t === "context" ? item.fields : {};
  return {
    names: { ...entries, item },
    open: item.t === "any" || item.t === "null" || (item.t === "context" && item.open === true),
    target: (name) =>
      name !== "item" && item.t === "context" ? { t: "entry", of: ownerOf(item) } : { t: "local", at },
  };
}
