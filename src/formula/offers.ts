import {
  completionsAt,
  templateCompletions,
  type Completions,
  type Names,
  type Scope,
  type Type,
} from "@/core/expression";

/** What is written in a field: one formula, or a text with formulas in braces. */
export type Writing = "formula" | "template";

/**
 * What the list of completions offers at a place, or null where it stays shut.
 * @param asked somebody pressed the keys for it; otherwise it comes only where it helps
 */
export function offersAt(
  writing: Writing,
  text: string,
  caret: number,
  asked: boolean,
  scope: Scope,
  wanted: Type,
  names: Names | null,
): Completions | null {
  const found =
    writing === "formula"
      ? { ...completionsAt(text, caret, scope, wanted, names), formula: text.slice(0, caret) }
      : templateCompletions(text, caret, scope, names);
  if (found.options.length === 0) return null;
  if (asked) return found;
  // A name written out needs no list over it, and Enter then keeps what stands there.
  if (found.options[0]!.label === text.slice(found.from, caret)) return null;
  // While nothing is typed, the list comes only at a place that wants a name.
  const wantsName =
    /[.(=<>\[,]\s?$|(?:and|or|if|then|else)\s$/.test(found.formula) ||
    (writing === "template" && found.formula === "");
  return found.from === caret && !wantsName ? null : found;
}
