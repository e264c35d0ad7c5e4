import type { Node } from "./ast";
import { compile, evaluate } from "./compile";
import type { Env } from "./run";
import { isRange, valueText, type Value } from "./values";

/** One part of a formula with its values, and the parts it is made of. */
export interface TraceLine {
  text: string;
  /** The same with values in the place of names; as `text` where there is nothing to put in. */
  values: string;
  result: string;
  yes: boolean | null;
  depth: number;
  /** Not looked at, because what stands before it had decided already. */
  passed: boolean;
}

const MAX_LINES = 60;
const MAX_LIST_SHOWN = 60;
export const saidValue = (v: Value): string => {
  if (v === true) return "yes";
  if (v === false) return "no";
  if (v === null) return "empty";
  if (v === "") return '""';
  return short(valueText(v));
};
const short = (t: string) => (t.length > MAX_LIST_SHOWN ? `${t.slice(0, MAX_LIST_SHOWN - 1)}…` : t);

/**
 * A formula taken apart over the values at hand: conditions joined by and/or, the arms of an if, both sides of
 * comparisons and sums. Evaluates again on demand; formulas themselves carry nothing for it.
 */
export function trace(text: string, ast: Node, env: Env): TraceLine[] {
  const lines: TraceLine[] = [];
  const value = (n: Node): Value => evaluate(compile(n), { ...env, fuel: { left: 200_000 } });
  const written = (n: Node) => text.slice(n.from, n.to);
  const line = (n: Node, depth: number, passed: boolean): Value => {
    const v = passed ? null : value(n);
    if (lines.length < MAX_LINES)
      lines.push({
        text: written(n),
        values: passed ? "" : filled(n),
        result: passed ? "not looked at" : saidValue(v),
        yes: typeof v === "boolean" ? v : null,
        depth,
        passed,
      });
    return v;
  };
  /** The text of a part with each outermost name replaced by its value. */
  const filled = (n: Node): string => {
    const put: { from: number; to: number; text: string }[] = [];
    const visit = (x: Node) => {
      if (x.k === "name" || x.k === "path" || x.k === "input")
        put.push({ from: x.from, to: x.to, text: quoted(value(x)) });
      else if (x.k === "call" || x.k === "filter" || x.k === "for" || x.k === "quant" || x.k === "invoke") {
        if (x !== n) put.push({ from: x.from, to: x.to, text: quoted(value(x)) });
        else if (x.k === "call") x.args.forEach(visit);
      } else for (const c of parts(x)) visit(c);
    };
    visit(n);
    return put
      .sort((a, b) => b.from - a.from)
      .reduce((out, p) => out.slice(0, p.from - n.from) + p.text + out.slice(p.to - n.from), written(n));
  };
  const open = (n: Node, depth: number, passed: boolean) => {
    const v = line(n, depth, passed);
    switch (n.k) {
      case "and":
      case "or": {
        let decided = passed;
        for (const part of chain(n, n.k)) {
          const before = lines.length;
          open(part, depth + 1, decided);
          const result = decided ? null : lines[before]?.yes;
          decided ||= n.k === "and" ? result === false : result === true;
        }
        return v;
      }
      case "if": {
        open(n.cond, depth + 1, passed);
        const yes = !passed && value(n.cond) === true;
        open(n.then, depth + 1, passed || !yes);
        open(n.else, depth + 1, passed || yes);
        return v;
      }
      case "call":
        // What goes into a function is what its result is made of; plain names are in the line already.
        for (const a of n.args) if (!plain(a)) open(a, depth + 1, passed);
        return v;
      case "cmp":
      case "arith":
        for (const side of [n.left, n.right]) if (!plain(side)) open(side, depth + 1, passed);
        return v;
      default:
        return v;
    }
  };
  open(ast, 0, false);
  return lines;
}

const quoted = (v: Value): string => {
  if (typeof v === "string") return JSON.stringify(short(v));
  if (isRange(v)) return valueText(v);
  return saidValue(v);
};
const plain = (n: Node) =>
  ["name", "path", "num", "str", "bool", "null", "at", "input", "range", "list", "fn"].includes(n.k);
const chain = (n: Node, k: "and" | "or"): Node[] =>
  n.k === k ? [...chain(n.left, k), ...chain(n.right, k)] : [n];
/** Parts whose names may be shown by value where they stand. */
const parts = (n: Node): Node[] => {
  switch (n.k) {
    case "cmp":
    case "arith":
    case "and":
    case "or":
      return [n.left, n.right];
    case "neg":
      return [n.of];
    case "between":
      return [n.of, n.low, n.high];
    case "in":
      return [n.of, ...n.tests];
    case "test":
      return [n.right];
    case "if":
      return [n.cond, n.then, n.else];
    case "instance":
      return [n.of];
    case "range":
      return [n.low, n.high];
    case "list":
      return n.items;
    default:
      return [];
  }
};
