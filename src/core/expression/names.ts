import type { Node } from "./ast";
import { childNodes } from "./ast";
import { parseFormula } from "./parse";
import type { Scope } from "./types";

const NAME = /^[\p{L}_][\p{L}\p{N}_]*( [\p{L}\p{N}_]+)*$/u;
const KEYWORDS = new Set(
  "if then else for in return some every satisfies between and or not null true false instance of function".split(" "),
);
export const MAX_NAME_LENGTH = 60;

/**
 * Whether a field or column may have this name, so that formulas can read it as written.
 * Letters, digits, single spaces and `_`, not starting with a digit: operator characters inside a
 * name would be read as arithmetic (`net-price`). Gives null, or a sentence saying what is wrong.
 */
export function nameMistake(name: string): string | null {
  if (name.trim() === "") return "A name is needed, for example: Return date.";
  if (name.length > MAX_NAME_LENGTH) return `A name may have ${MAX_NAME_LENGTH} characters; this one has ${name.length}.`;
  if (KEYWORDS.has(name)) return `"${name}" is a word of the formula language. Add a word, for example: ${name} date.`;
  if (NAME.test(name)) return null;
  const odd = [...name].find((c) => !/[\p{L}\p{N}_ ]/u.test(c));
  if (odd) return `A name may hold letters, digits and spaces; "${odd}" would be read as part of a formula.`;
  if (/^\p{N}/u.test(name)) return `A name starts with a letter: "${name}" starts with a digit.`;
  return "A name has single spaces between its words, and none at its ends.";
}

/** Every place a name is read, with the path of names that leads to it. */
export interface NameUse {
  path: string[];
  from: number;
  to: number;
}

/**
 * All uses of scope names in a tree, longest path first seen: `Lines.Price` is one use ["Lines","Price"].
 * Names bound by `for`, `some` and `every` are followed to what they run over.
 */
export function nameUses(ast: Node): NameUse[] {
  const out: NameUse[] = [];
  const visit = (n: Node, bound: ReadonlyMap<string, string[] | null>, item: string[] | null): string[] | null => {
    switch (n.k) {
      case "name": {
        if (bound.has(n.name)) return bound.get(n.name)!;
        if (n.name === "item" && item) return item;
        out.push({ path: [n.name], from: n.from, to: n.to });
        // Inside a filter a bare name may be a column of what is filtered: both readings are kept.
        if (item) out.push({ path: [...item, n.name], from: n.from, to: n.to });
        return [n.name];
      }
      case "path": {
        const base = visit(n.of, bound, item);
        if (!base) return null;
        const path = [...base, n.name];
        out.push({ path, from: n.to - n.name.length, to: n.to });
        return path;
      }
      case "filter": {
        const base = visit(n.of, bound, item);
        visit(n.by, bound, base);
        return base;
      }
      case "for":
      case "quant": {
        const inner = new Map(bound);
        for (const i of n.iters) {
          inner.set(i.name, visit(i.in, inner, item));
          if (i.to) visit(i.to, inner, item);
        }
        visit(n.body, inner, item);
        return null;
      }
      default:
        for (const c of childNodes(n)) visit(c, bound, item);
        return null;
    }
  };
  visit(ast, new Map(), null);
  return out;
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
