import type { SyntaxNode } from "@lezer/common";
import type { ArithOp, CompareOp, Iter, Node, TypeName } from "./ast";
import type { FormulaProblem } from "./problem";

export const MAX_DEPTH = 120;

export class Refused extends Error {
  constructor(readonly problem: FormulaProblem) {
    super(problem.message);
  }
}

const ESCAPES: Readonly<Record<string, string>> = {
  n: "\n",
  t: "\t",
  r: "\r",
  '"': '"',
  "'": "'",
  "\\": "\\",
};

/** The last words of a text. */
const ending = (t: string): string => (t.length <= 30 ? t : `… ${t.slice(-30).replace(/^\S*\s+/, "")}`);

/** Turns the grammar's tree into ours; throws Refused for what cannot be read. */
export class TreeReader {
  constructor(private readonly text: string) {}

  private slice = (n: SyntaxNode) => this.text.slice(n.from, n.to);

  private fail(
    n: { from: number; to: number },
    message: string,
    code: FormulaProblem["code"] = "syntax",
  ): never {
    throw new Refused({ code, from: n.from, to: Math.max(n.to, n.from), message });
  }

  findError(top: SyntaxNode) {
    const cursor = top.cursor();
    do {
      if (!cursor.type.isError) continue;
      const rest = this.text.slice(cursor.from, cursor.to).trim();
      const before = this.text.slice(0, cursor.from).trim();
      const where = before ? `after "${ending(before)}"` : "at the start";
      this.fail(cursor.node, rest ? `"${rest}" does not fit here.` : `Something is missing ${where}.`);
    } while (cursor.next());
  }

  /** Unary tests (DMN 1.5, grammar rules 12 to 17): of the input, which stands as `?`. */
  unary(top: SyntaxNode): Node {
    const at = { from: top.from, to: top.to };
    const kids = this.kids(top);
    if (kids[0]?.name === "Wildcard") return { ...at, k: "tests", tests: [], not: false };
    const list = kids.find((c) => c.name === "PositiveUnaryTests");
    const tests = list ? this.named(list).map((p) => this.read(p, 1)) : [];
    if (tests.length === 0) this.fail(top, "A test is needed, for example: > 500.");
    // `not(3)` with one plain value reads as a call of the function; in a test it means "anything but 3".
    const only = tests.length === 1 ? tests[0]! : null;
    if (only?.k === "call" && only.fn === "not" && only.args.length === 1 && !only.names)
      return { ...at, k: "tests", tests: only.args, not: true };
    return { ...at, k: "tests", tests, not: kids[0]?.name === "not" };
  }

  private kids(n: SyntaxNode): SyntaxNode[] {
    const out: SyntaxNode[] = [];
    for (let c = n.firstChild; c; c = c.nextSibling) if (!/Comment$/.test(c.name)) out.push(c);
    return out;
  }
  private named = (n: SyntaxNode) =>
    this.kids(n).filter((c) => /^[A-Z]/.test(c.name) || c.name === "null" || c.name === "?");
  private name = (n: SyntaxNode) => this.slice(n).replace(/\s+/g, " ").replace(/^`|`$/g, "");

  /** @param depth how deep this is nested; a flat chain (`a + b + c`, `a.b.c`) is as deep as its first part */
  read(n: SyntaxNode, depth: number): Node {
    if (depth > MAX_DEPTH)
      this.fail(n, `A formula may be nested ${MAX_DEPTH} deep; this one goes deeper.`, "too-long");
    const at = { from: n.from, to: n.to };
    const d = depth + 1;
    const sub = (c: SyntaxNode | undefined, deep = d): Node =>
      c
        ? this.read(c, deep)
        : this.fail({ from: n.to, to: n.to }, `Something is missing in "${this.slice(n)}".`);
    const parts = this.named(n);
    switch (n.name) {
      case "NumericLiteral":
        return { ...at, k: "num", text: this.slice(n) };
      case "StringLiteral":
        return { ...at, k: "str", text: this.string(n) };
      case "BooleanLiteral":
        return { ...at, k: "bool", value: this.slice(n) === "true" };
      case "null":
        return { ...at, k: "null" };
      case "?":
        return { ...at, k: "input" };
      case "VariableName":
        return { ...at, k: "name", name: this.name(n) };
      case "ParenthesizedExpression":
        return sub(parts[0]);
      case "PathExpression":
        return { ...at, k: "path", of: sub(parts[0], depth), name: this.name(parts[1]!) };
      case "ArithmeticExpression": {
        const op = this.slice(parts.find((p) => p.name === "ArithOp")!) as ArithOp;
        const sides = parts.filter((p) => p.name !== "ArithOp");
        if (sides.length === 1) return { ...at, k: "neg", of: sub(sides[0]) };
        return { ...at, k: "arith", op, left: sub(sides[0], depth), right: sub(sides[1]) };
      }
      case "Conjunction":
        return { ...at, k: "and", left: sub(parts[0], depth), right: sub(parts[1]) };
      case "Disjunction":
        return { ...at, k: "or", left: sub(parts[0], depth), right: sub(parts[1]) };
      case "Comparison":
        return this.comparison(n, d);
      case "IfExpression":
        return { ...at, k: "if", cond: sub(parts[0]), then: sub(parts[1]), else: sub(parts[2]) };
      case "FunctionInvocation":
        return this.call(n, d);
      case "DateTimeLiteral": {
        const lit = parts[0]!;
        if (lit.name === "AtLiteral") return { ...at, k: "at", text: this.string(this.named(lit)[0]!) };
        return { ...at, k: "call", fn: this.name(lit), ...this.args(n, d) };
      }
      case "FilterExpression":
        return { ...at, k: "filter", of: sub(parts[0], depth), by: sub(parts[1]) };
      case "List":
        return { ...at, k: "list", items: parts.map((p) => sub(p)) };
      case "Context":
        return {
          ...at,
          k: "ctx",
          entries: parts.map((p) => {
            const [key, value] = this.named(p);
            const word = this.named(key!)[0]!;
            return {
              key: word.name === "StringLiteral" ? this.string(word) : this.name(word),
              value: sub(value),
            };
          }),
        };
      case "SimplePositiveUnaryTest":
      case "PositiveUnaryTest": {
        if (parts[0]?.name === "CompareOp")
          return { ...at, k: "test", op: this.slice(parts[0]) as CompareOp, right: sub(parts[1]) };
        return sub(parts[0]);
      }
      case "Interval": {
        const text = this.slice(n);
        return {
          ...at,
          k: "range",
          low: sub(parts[0]),
          high: sub(parts[1]),
          includesLow: text.startsWith("["),
          includesHigh: text.endsWith("]"),
        };
      }
      case "FunctionDefinition": {
        const all = this.kids(n);
        if (all.some((c) => c.name === "external"))
          this.fail(n, "A formula cannot call programs outside.", "not-supported");
        const params = parts.find((p) => p.name === "FormalParameters");
        const body = parts.find((p) => p.name === "FunctionBody");
        return {
          ...at,
          k: "fn",
          params: (params ? this.named(params) : []).map((p) => {
            const [name, type] = this.named(p);
            return type ? { name: this.name(name!), type: this.type(type) } : { name: this.name(name!) };
          }),
          body: sub(body && this.named(body)[0]),
        };
      }
      case "InstanceOfExpression":
        return {
          ...at,
          k: "instance",
          of: sub(parts[0]),
          type: this.type(
            parts[1] ?? this.fail(n, `A type is missing after "instance of", for example: number.`),
          ),
        };
      case "ForExpression":
        return { ...at, k: "for", iters: this.iters(parts[0]!, d), body: sub(parts[1]) };
      case "QuantifiedExpression":
        return {
          ...at,
          k: "quant",
          every: this.slice(n).startsWith("every"),
          iters: this.iters(parts[0]!, d),
          body: sub(parts[1]),
        };
      default:
        this.fail(n, `"${this.slice(n)}" cannot be used in a formula yet.`, "not-supported");
    }
  }

  private string(n: SyntaxNode): string {
    const inner = this.text.slice(n.from + 1, n.to - 1);
    return inner.replace(
      /\\(u\{([0-9a-fA-F]{1,6})\}|u([0-9a-fA-F]{4})|U([0-9a-fA-F]{6})|.)/g,
      (_, e, a, b, c) => {
        const hex = a ?? b ?? c;
        if (hex) return String.fromCodePoint(Math.min(parseInt(hex, 16), 0x10ffff));
        // What is no escape of the language stays as it is written: "\d" is two characters (grammar rule 35).
        return ESCAPES[e] ?? `\\${e}`;
      },
    );
  }

  private comparison(n: SyntaxNode, d: number): Node {
    const at = { from: n.from, to: n.to };
    const all = this.kids(n);
    const parts = this.named(n);
    const left = this.read(parts[0]!, d);
    if (all.some((c) => c.name === "between")) {
      if (parts.length < 3) this.fail(n, `"between" needs two ends: Total between 1 and 5.`);
      return { ...at, k: "between", of: left, low: this.read(parts[1]!, d), high: this.read(parts[2]!, d) };
    }
    if (all.some((c) => c.name === "in")) {
      const test = parts[1];
      if (test && test.name !== "PositiveUnaryTests") return this.inTest(left, test, d);
      return {
        ...at,
        k: "in",
        of: left,
        tests: parts
          .slice(1)
          .flatMap((p) => this.named(p))
          .map((p) => this.read(p, d)),
      };
    }
    if (parts.length < 3) this.fail({ from: n.to, to: n.to }, `Something is missing in "${this.slice(n)}".`);
    return { ...at, k: "cmp", op: this.slice(parts[1]!) as CompareOp, left, right: this.read(parts[2]!, d) };
  }

  /**
   * `x in [1..5] and y`: the grammar takes all of `[1..5] and y` as the test, but `in` binds closer than `and` and
   * `or` (DMN 1.5, grammar rules 1 to 3 and 51), so the test ends at the first of them.
   */
  private inTest(of: Node, test: SyntaxNode, d: number): Node {
    let simple = test;
    while (
      simple.name === "PositiveUnaryTest" ||
      (simple.name === "SimplePositiveUnaryTest" && this.named(simple).length === 1)
    )
      simple = this.named(simple)[0]!;
    const parts = simple.name === "SimplePositiveUnaryTest" ? this.named(simple) : [];
    const op = parts[0]?.name === "CompareOp" ? (this.slice(parts[0]) as CompareOp) : null;
    let base = op ? parts[1]! : simple;
    const after: { k: "and" | "or"; right: SyntaxNode }[] = [];
    while (base.name === "Conjunction" || base.name === "Disjunction") {
      const [l, r] = this.named(base);
      if (!l || !r)
        this.fail({ from: base.to, to: base.to }, `Something is missing in "${this.slice(base)}".`);
      after.unshift({ k: base.name === "Conjunction" ? "and" : "or", right: r });
      base = l;
    }
    const value = this.read(base, d);
    const first: Node = op ? { from: simple.from, to: base.to, k: "test", op, right: value } : value;
    return after.reduce<Node>(
      (node, { k, right }) => ({ from: of.from, to: right.to, k, left: node, right: this.read(right, d) }),
      { from: of.from, to: base.to, k: "in", of, tests: [first] },
    );
  }

  private args(n: SyntaxNode, d: number): { args: Node[]; names?: string[] } {
    const list = this.named(n).find((p) => /Parameters$/.test(p.name));
    if (!list) return { args: [] };
    if (list.name === "PositionalParameters") return { args: this.named(list).map((p) => this.read(p, d)) };
    const pairs = this.named(list).map((p) => this.named(p));
    return { args: pairs.map((p) => this.read(p[1]!, d)), names: pairs.map((p) => this.name(p[0]!)) };
  }

  private call(n: SyntaxNode, d: number): Node {
    const callee = this.named(n)[0]!;
    const at = { from: n.from, to: n.to };
    if (callee.name !== "VariableName" && callee.name !== "SpecialFunctionName")
      return { ...at, k: "invoke", of: this.read(callee, d), ...this.args(n, d) };
    return { ...at, k: "call", fn: this.name(callee), ...this.args(n, d) };
  }

  private type(n: SyntaxNode): TypeName {
    const parts = this.named(n);
    switch (n.name) {
      case "Type":
        return parts[0] ? this.type(parts[0]) : this.fail(n, "A type is missing here, for example: number.");
      case "ListType":
        return { t: this.slice(n).startsWith("range") ? "range" : "list", of: this.type(parts[0]!) };
      case "ContextType":
        return {
          t: "context",
          fields: this.named(parts[0] ?? n).map((e) => {
            const [name, type] = this.named(e);
            return { name: this.name(name!), type: this.type(type!) };
          }),
        };
      case "FunctionType": {
        const args = parts.find((p) => p.name === "ArgumentTypes");
        return {
          t: "function",
          params: (args ? this.named(args) : []).map((p) => this.type(this.named(p)[0] ?? p)),
          result: this.type(parts.at(-1)!),
        };
      }
      default:
        return { t: "simple", name: this.name(n).replace(/\s*\.\s*/g, ".") };
    }
  }

  private iters(n: SyntaxNode, d: number): Iter[] {
    return this.named(n).map((p) => {
      const [name, source] = this.named(p);
      const ends = source!.name === "IterationContext" ? this.named(source!) : [source!];
      const iter: Iter = { name: this.name(name!), in: this.read(ends[0]!, d) };
      if (ends[1]) iter.to = this.read(ends[1], d);
      return iter;
    });
  }
}
