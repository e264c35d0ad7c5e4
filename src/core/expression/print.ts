import type { Iter, Node, TypeName } from "./ast";

/** How tightly each kind binds; a looser part inside a tighter one needs brackets. */
const LEVEL: Partial<Record<Node["k"], number>> = {
  or: 1,
  and: 2,
  cmp: 3,
  between: 3,
  in: 3,
  instance: 3,
  test: 3,
};
const ARITH = { "+": 4, "-": 4, "*": 5, "/": 5, "**": 6 } as const;
const level = (n: Node): number => {
  if (n.k === "arith") return ARITH[n.op];
  if (n.k === "neg") return 7;
  if (n.k === "if" || n.k === "for" || n.k === "quant" || n.k === "fn") return 0;
  return LEVEL[n.k] ?? 9;
};

/** A text as a literal. */
export const textLiteral = (s: string): string =>
  `"${[...s]
    .map((c) => {
      if (c === '"' || c === "\\") return `\\${c}`;
      if (c === "\n") return "\\n";
      if (c === "\r") return "\\r";
      if (c === "\t") return "\\t";
      return c;
    })
    .join("")}"`;

/** A formula written out of its tree; reading it again gives the same tree but for positions. */
export function printFormula(n: Node): string {
  const at = (x: Node, least: number): string =>
    level(x) < least ? `(${printFormula(x)})` : printFormula(x);
  switch (n.k) {
    case "num":
      return n.text;
    case "str":
      return textLiteral(n.text);
    case "bool":
      return String(n.value);
    case "null":
      return "null";
    case "at":
      return `@${textLiteral(n.text)}`;
    case "name":
      return n.name;
    case "input":
      return "?";
    case "path":
      return `${at(n.of, 9)}.${n.name}`;
    case "neg": {
      const of = at(n.of, 8);
      // A minus straight before digits would become part of the number.
      return /^[\d.]/.test(of) ? `-(${of})` : `-${of}`;
    }
    // All operators go together from the left.
    case "arith":
      return `${at(n.left, ARITH[n.op])} ${n.op} ${at(n.right, ARITH[n.op] + 1)}`;
    case "cmp":
      return `${at(n.left, 4)} ${n.op} ${at(n.right, 4)}`;
    case "between":
      return `${at(n.of, 4)} between ${at(n.low, 4)} and ${at(n.high, 4)}`;
    case "in":
      return `${at(n.of, 4)} in ${n.tests.length === 1 && n.tests[0]!.k !== "in" ? tested(n.tests[0]!, at) : `(${n.tests.map((t) => printFormula(t)).join(", ")})`}`;
    case "test":
      return `${n.op} ${at(n.right, 4)}`;
    case "tests": {
      const all = n.tests.map((t) => printFormula(t)).join(", ");
      if (n.tests.length === 0) return "-";
      if (n.not) return `not(${all})`;
      return all;
    }
    case "and":
      return `${at(n.left, 2)} and ${at(n.right, 3)}`;
    case "or":
      return `${at(n.left, 1)} or ${at(n.right, 2)}`;
    case "if":
      return `if ${printFormula(n.cond)} then ${printFormula(n.then)} else ${printFormula(n.else)}`;
    case "call":
      return `${n.fn}(${args(n)})`;
    case "invoke":
      return `${at(n.of, 9)}(${args(n)})`;
    case "fn":
      return `function(${n.params.map((p) => (p.type ? `${p.name}: ${typeText(p.type)}` : p.name)).join(", ")}) ${printFormula(n.body)}`;
    case "instance":
      return `${at(n.of, 4)} instance of ${typeText(n.type)}`;
    case "filter":
      return `${at(n.of, 9)}[${printFormula(n.by)}]`;
    case "list":
      return `[${n.items.map((i) => printFormula(i)).join(", ")}]`;
    case "ctx":
      return `{${n.entries.map((e) => `${/^[\p{L}_][\p{L}\p{N}_ ]*$/u.test(e.key) ? e.key : textLiteral(e.key)}: ${printFormula(e.value)}`).join(", ")}}`;
    case "range":
      return `${n.includesLow ? "[" : "("}${at(n.low, 4)}..${at(n.high, 4)}${n.includesHigh ? "]" : ")"}`;
    case "for":
      return `for ${iters(n.iters)} return ${printFormula(n.body)}`;
    case "quant":
      return `${n.every ? "every" : "some"} ${iters(n.iters)} satisfies ${printFormula(n.body)}`;
  }
}

const tested = (t: Node, at: (x: Node, least: number) => string) =>
  t.k === "test" ? printFormula(t) : at(t, 4);
const args = (n: { args: Node[]; names?: string[] }) =>
  n.args.map((a, i) => (n.names ? `${n.names[i]}: ${printFormula(a)}` : printFormula(a))).join(", ");
const iters = (list: readonly Iter[]) =>
  list.map((i) => `${i.name} in ${printFormula(i.in)}${i.to ? `..${printFormula(i.to)}` : ""}`).join(", ");

function typeText(t: TypeName): string {
  switch (t.t) {
    case "simple":
      return t.name;
    case "list":
      return `list<${typeText(t.of)}>`;
    case "range":
      return `range<${typeText(t.of)}>`;
    case "context":
      return `context<${t.fields.map((f) => `${f.name}: ${typeText(f.type)}`).join(", ")}>`;
    case "function":
      return `function<${t.params.map(typeText).join(", ")}> -> ${typeText(t.result)}`;
  }
}
