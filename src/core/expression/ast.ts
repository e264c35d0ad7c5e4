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
    /** A test with its left side understood: `> 5` inside `in`. */
    | { k: "test"; op: CompareOp; right: Node }
    | { k: "and" | "or"; left: Node; right: Node }
    | { k: "if"; cond: Node; then: Node; else: Node }
    | { k: "call"; fn: string; args: Node[]; names?: string[] }
    | { k: "filter"; of: Node; by: Node }
    | { k: "list"; items: Node[] }
    | { k: "ctx"; entries: { key: string; value: Node }[] }
    | { k: "range"; low: Node; high: Node; includesLow: boolean; includesHigh: boolean }
    | { k: "for"; iters: Iter[]; body: Node }
    | { k: "quant"; every: boolean; iters: Iter[]; body: Node }
  );

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
