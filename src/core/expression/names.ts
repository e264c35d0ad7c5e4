import { parseFormula } from "./parse";
import type { Scope } from "./types";
import { nameUses } from "./uses";

const NAME = /^[\p{L}_][\p{L}\p{N}_]*( [\p{L}\p{N}_]+)*$/u;
const KEYWORDS = new Set(
  "if then else for in return some every satisfies between and or not null true false instance of function".split(
    " ",
  ),
);
export const MAX_NAME_LENGTH = 60;

/**
 * Whether a field or column may have this name, so that formulas can read it as written.
 * Letters, digits, single spaces and `_`, not starting with a digit: operator characters inside a
 * name would be read as arithmetic (`net-price`). Gives null, or a sentence saying what is wrong.
 */
export function nameMistake(name: string): string | null {
  if (name.trim() === "") return "A name is needed, for example: Return date.";
  if (name.length > MAX_NAME_LENGTH)
    return `A name may have ${MAX_NAME_LENGTH} characters; this one has ${name.length}.`;
  if (KEYWORDS.has(name))
    return `"${name}" is a word of the formula language. Add a word, for example: ${name} date.`;
  if (NAME.test(name)) return null;
  const odd = [...name].find((c) => !/[\p{L}\p{N}_ ]/u.test(c));
  if (odd) return `A name may hold letters, digits and spaces; "${odd}" would be read as part of a formula.`;
  if (/^\p{N}/u.test(name)) return `A name starts with a letter: "${name}" starts with a digit.`;
  return "A name has single spaces between its words, and none at its ends.";
}

/**
 * Rewrites every use of the name at `path` (["Total"], or ["Lines", "Price"] for a column) to `next`,
 * touching nothing else: spacing and comments of the author stay. A text that cannot be read stays as it is.
 */
export function renameInFormula(text: string, scope: Scope, path: readonly string[], next: string): string {
  const { ast } = parseFormula(text, scope);
  if (!ast) return text;
  const hit = new Map<number, number>();
  for (const use of nameUses(ast))
    if (use.path.length === path.length && use.path.every((p, i) => p === path[i])) hit.set(use.from, use.to);
  return [...hit]
    .sort((a, b) => b[0] - a[0])
    .reduce((out, [from, to]) => out.slice(0, from) + next + out.slice(to), text);
}
