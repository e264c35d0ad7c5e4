/**
 * A formula after parsing: plain JSON, so that the server can parse once and the browser
 * only turns it into closures, without carrying the grammar. `from`/`to` are offsets in the text.
 */
interface At {
  from: number;
  to: number;
}
export type CompareOp = "=" | "!=" | "<" | "<=" | ">" | ">=";
export type ArithOp = "+" | "-" | "*" | "/" | "**";

export type Node = At &
  (
    | { k: "num"; text: string }
    | { k: "str"; text: string }
    | { k: "bool"; value: boolean }
    | { k: "null" }
    | { k: "at"; text: string }
    | { k: "name"; name: string }
    | { k: "path"; of: Node; name: string }
    | { k: "arith"; op: ArithOp; left: Node; right: Node }
    | { k: "neg"; of: Node }
    | { k: "cmp"; op: CompareOp; left: Node; right: Node }
    | { k: "between"; of: Node; low: Node; high: Node }
    | { k: "in"; of: Node; tests: Node[] }
    /** A test with its left side understood: `> 5` inside `in`; elsewhere it is a range with one open end. */
    | { k: "test"; op: CompareOp; right: Node }
    | { k: "and" | "or"; left: Node; right: Node }
    | { k: "if"; cond: Node; then: Node; else: Node }
    /** A function by its name: a built-in, or a name in scope that holds a function. */
    | { k: "call"; fn: string; args: Node[]; names?: string[] }
    /** A function that is itself worked out: `(function(x) x)(2)`, `rules.first(3)`. */
    | { k: "invoke"; of: Node; args: Node[]; names?: string[] }
    | { k: "fn"; params: { name: string; type?: TypeName }[]; body: Node }
    | { k: "instance"; of: Node; type: TypeName }
    /** The input of a unary test. */
    | { k: "input" }
    /** Unary tests as a whole: any of them holds, or with `not` none of them. No tests: anything passes (`-`). */
    | { k: "tests"; tests: Node[]; not: boolean }
    | { k: "filter"; of: Node; by: Node }
    | { k: "list"; items: Node[] }
    | { k: "ctx"; entries: { key: string; value: Node }[] }
    | { k: "range"; low: Node; high: Node; includesLow: boolean; includesHigh: boolean }
    | { k: "for"; iters: Iter[]; body: Node }
    | { k: "quant"; every: boolean; iters: Iter[]; body: Node }
  );

/** A type as written after `instance of` or a parameter (DMN 1.5, 10.3.2.9 and grammar rule 66). */
export type TypeName =
  | { t: "simple"; name: string }
  | { t: "list"; of: TypeName }
  | { t: "range"; of: TypeName }
  | { t: "context"; fields: { name: string; type: TypeName }[] }
  | { t: "function"; params: TypeName[]; result: TypeName };

export interface Iter {
  name: string;
  in: Node;
  /** `1..5`: the end of a counted iteration. */
  to?: Node;
}

/** The direct parts of a node, in order. */
export function childNodes(n: Node): Node[] {
  switch (n.k) {
    case "path":
    case "neg":
      return [n.of];
    case "arith":
    case "cmp":
    case "and":
    case "or":
      return [n.left, n.right];
    case "between":
      return [n.of, n.low, n.high];
    case "in":
      return [n.of, ...n.tests];
    case "test":
      return [n.right];
    case "if":
      return [n.cond, n.then, n.else];
    case "call":
      return n.args;
    case "invoke":
      return [n.of, ...n.args];
    case "fn":
      return [n.body];
    case "instance":
      return [n.of];
    case "tests":
      return n.tests;
    case "filter":
      return [n.of, n.by];
    case "list":
      return n.items;
    case "ctx":
      return n.entries.map((e) => e.value);
    case "range":
      return [n.low, n.high];
    case "for":
    case "quant":
      return [...n.iters.flatMap((i) => (i.to ? [i.in, i.to] : [i.in])), n.body];
    default:
      return [];
  }
}

/** How many parts a tree has: what one go through it costs. */
export function sizeOf(n: Node): number {
  return childNodes(n).reduce((sum, c) => sum + sizeOf(c), 1);
}
