import type { Node } from "./ast";

/** Whether a name (or path of names) always has a value where the formula stands. */
export type IsFilled = (path: readonly string[]) => boolean;

/**
 * The part through which a formula can come to nothing, and why, in a sentence; null where it cannot. What is
 * tracked: empty fields, parts of people and records, division, positions in lists, and functions that refuse.
 * A warning, not a proof: it looks at the way a formula is written, not at values.
 */
export function emptyBecause(
  n: Node,
  text: string,
  filled: IsFilled,
): { from: number; to: number; message: string } | null {
  const at = (x: Node, message: string) => ({ from: x.from, to: x.to, message });
  const first = (...parts: Node[]) =>
    parts.reduce<ReturnType<typeof emptyBecause>>((found, p) => found ?? go(p), null);
  const written = (x: Node) => text.slice(x.from, x.to);
  const pathOf = (x: Node): string[] | null => {
    if (x.k === "name") return [x.name];
    const of = x.k === "path" ? pathOf(x.of) : null;
    return of && x.k === "path" ? [...of, x.name] : null;
  };
  /** Names that loops and filters bring are not known to be filled, nor to be empty; they are passed over. */
  const bound = new Set<string>(["item", "partial"]);
  const go = (x: Node): ReturnType<typeof emptyBecause> => {
    switch (x.k) {
      case "null":
        return at(x, "This side is empty.");
      case "name":
      case "path": {
        const path = pathOf(x);
        if (!path) return x.k === "path" ? go(x.of) : null;
        return bound.has(path[0]!) || filled(path) ? null : at(x, `"${written(x)}" can be empty.`);
      }
      case "neg":
        return go(x.of);
      case "arith":
        if (x.op === "/" && !(x.right.k === "num" && Number(x.right.text) !== 0))
          return (
            first(x.left) ?? at(x.right, `"${written(x.right)}" can be 0, and nothing can be divided by 0.`)
          );
        return first(x.left, x.right);
      case "cmp":
        return x.op === "=" || x.op === "!=" ? null : first(x.left, x.right);
      case "between":
        return first(x.of, x.low, x.high);
      case "and":
      case "or":
        return first(x.left, x.right);
      case "if":
        return first(x.then, x.else);
      case "filter":
        return x.by.k === "num" || x.by.k === "neg" ? at(x, `There may be no line ${written(x.by)}.`) : null;
      case "for":
      case "quant":
        x.iters.forEach((i) => bound.add(i.name));
        return x.k === "quant" ? go(x.body) : null;
      case "call":
        return call(x);
      case "invoke":
        return at(x, `"${written(x)}" may come to nothing.`);
      // Written down, or a list or an answer yes or no, which is never empty.
      case "num":
      case "str":
      case "bool":
      case "at":
      case "list":
      case "ctx":
      case "range":
      case "fn":
      case "in":
      case "instance":
      // Only in the tests of "in", which is not looked into.
      case "test":
      case "tests":
      case "input":
        return null;
    }
  };
  const call = (x: Extract<Node, { k: "call" }>): ReturnType<typeof emptyBecause> => {
    switch (x.fn) {
      case "sum":
      case "mean":
      case "min":
      case "max":
      case "median":
      case "product":
      case "stddev":
        if (x.args.length === 1 && x.args[0]!.k !== "list")
          return at(x, `Without lines, "${x.fn}" comes to nothing.`);
        return first(...x.args);
      case "date":
      case "time":
      case "date and time":
      case "number":
      case "duration":
        return x.args.length === 1 && x.args[0]!.k === "str"
          ? null
          : at(x, `"${written(x)}" comes to nothing where it cannot be read.`);
      case "manager of":
        return at(x, "Not everybody has a manager.");
      case "is empty":
      case "now":
      case "today":
      case "count":
      case "all":
      case "any":
      case "list contains":
      case "holders of":
        return null;
      case "sqrt":
      case "log":
      case "modulo":
      case "substring":
        return first(...x.args) ?? at(x, `"${x.fn}" comes to nothing for some values.`);
      default:
        return first(...x.args);
    }
  };
  return go(n);
}
