import type { Node } from "./ast";
import { compile, evaluate } from "./compile";
import type { Env } from "./run";
import type { Reads } from "./resolve";
import { valueText } from "./values";

/** One clause of a condition: its text, the same with the values put in, and what it came to. */
export interface Clause {
  text: string;
  values: string;
  result: string;
  /**
   * What the clause reads, so that a reader who may not see some of it is not shown it: names, and entries of rows by
   * the id of their line items (`rows f3.Price`); `*` for what is known only when it runs.
   */
  reads: string[];
}

const said = (v: ReturnType<typeof evaluate>) => {
  if (v === true) return "yes";
  if (v === false) return "no";
  if (v === null) return "unknown";
  return valueText(v);
};

/**
 * Why a condition came out as it did: clause by clause, joined as written.
 * Evaluates again on demand, so that explaining costs nothing where nobody asks.
 */
export function explain(text: string, ast: Node, reads: Reads, env: Env): Clause[] {
  if (ast.k === "and" || ast.k === "or")
    return [...explain(text, ast.left, reads, env), ...explain(text, ast.right, reads, env)];
  const seen = new Set<number>();
  const put: { from: number; to: number; value: string }[] = [];
  const collect = (n: Node, bound: boolean) => {
    if ((n.k === "name" || n.k === "path") && !bound) {
      if (seen.has(n.from)) return;
      seen.add(n.from);
      put.push({ from: n.from, to: n.to, value: said(evaluate(compile(n), env)) });
      return;
    }
    // Inside loops and filters names have a different value each time round; the whole is shown instead.
    if (n.k === "call" || n.k === "filter" || n.k === "for" || n.k === "quant") {
      put.push({ from: n.from, to: n.to, value: said(evaluate(compile(n), env)) });
      return;
    }
    if (n.k === "cmp" || n.k === "arith") {
      collect(n.left, bound);
      collect(n.right, bound);
    } else if (n.k === "neg") collect(n.of, bound);
    else if (n.k === "between") {
      collect(n.of, bound);
      collect(n.low, bound);
      collect(n.high, bound);
    } else if (n.k === "in") collect(n.of, bound);
  };
  collect(ast, false);
  const values = put
    .sort((a, b) => b.from - a.from)
    .reduce(
      (out, p) => out.slice(0, p.from - ast.from) + p.value + out.slice(p.to - ast.from),
      text.slice(ast.from, ast.to),
    );
  return [
    {
      text: text.slice(ast.from, ast.to),
      values,
      result: said(evaluate(compile(ast), env)),
      reads: readBy(ast, reads),
    },
  ];
}

function readBy(part: Node, { references, wholes }: Reads): string[] {
  const within = (r: { from: number; to: number }) => r.from >= part.from && r.to <= part.to;
  const named = references.filter(within).flatMap(({ name, target }) => {
    if (target.t === "name") return [name];
    if (target.t === "unknown") return target.outside ? [name, `*.${name}`] : [`*.${name}`];
    return target.t === "entry" && target.of !== "" ? [`${target.of}.${name}`] : [];
  });
  return [...new Set([...named, ...wholes.filter(within).map((w) => `${w.of}.*`)])];
}
