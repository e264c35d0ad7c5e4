import type { Node } from "./ast";
import { compile, evaluate } from "./compile";
import type { Env } from "./run";
import type { Reads } from "./resolve";
import { valueText } from "./values";

/** One clause of a condition: its text, the same with the values put in, and what it came to. */
export interface Clause {
  text: string;
  values: string;
  /** Empty where it was asked of many. */
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
  const text = valueText(v);
  return text.length > LONGEST ? `${text.slice(0, LONGEST - 1)}…` : text;
};
/** Letters of a value that are said: a list may be as long as a form. */
const LONGEST = 300;

/**
 * Why a condition came out as it did: clause by clause, joined as written.
 * Evaluates again on demand, so that explaining costs nothing where nobody asks.
 */
export function explain(text: string, ast: Node, reads: Reads, env: Env): Clause[] {
  return clausesOf(text, ast, reads, env, () => false).map((c) => ({
    ...c.clause,
    result: said(evaluate(compile(c.ast), env)),
  }));
}

/**
 * A condition over many records, clause by clause, with the values it was asked with; what each record has, and what the
 * clause came to for it, is left as written.
 * @param columns the names that stand for what a record has
 */
export const explainOver = (
  text: string,
  ast: Node,
  reads: Reads,
  env: Env,
  columns: ReadonlySet<string>,
): Clause[] => {
  const own = reads.references.filter((r) => r.target.t === "name" && columns.has(r.name));
  const ofRecord = (n: Node) => own.some((r) => r.from >= n.from && r.to <= n.to);
  return clausesOf(text, ast, reads, env, ofRecord).map((c) => ({ ...c.clause, result: "" }));
};

/** @param asWritten what is left as it is written, and not said with its value */
function clausesOf(
  text: string,
  ast: Node,
  reads: Reads,
  env: Env,
  asWritten: (n: Node) => boolean,
): { ast: Node; clause: Omit<Clause, "result"> }[] {
  if (ast.k === "and" || ast.k === "or")
    return [ast.left, ast.right].flatMap((n) => clausesOf(text, n, reads, env, asWritten));
  const seen = new Set<number>();
  const put: { from: number; to: number; value: string }[] = [];
  const collect = (n: Node, bound: boolean) => {
    if ((n.k === "name" || n.k === "path") && !bound) {
      if (seen.has(n.from) || asWritten(n)) return;
      seen.add(n.from);
      put.push({ from: n.from, to: n.to, value: said(evaluate(compile(n), env)) });
      return;
    }
    // Inside loops and filters names have a different value each time round; the whole is shown instead.
    if (n.k === "call" || n.k === "filter" || n.k === "for" || n.k === "quant") {
      if (asWritten(n)) return;
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
      ast,
      clause: { text: text.slice(ast.from, ast.to), values, reads: readBy(ast, reads) },
    },
  ];
}

/**
 * What a formula reads of rows and records, and by names of the scope, in the words of `Clause.reads`. One that is a
 * record and nothing else hands it on: of what stands in it only what it is called is read.
 */
export const readsInWords = (ast: Node, { references, wholes }: Reads): string[] => [
  ...readBy(ast, { references, wholes: wholes.filter((w) => w.from > ast.from || w.to < ast.to) }),
  ...wholes.flatMap((w) => {
    if (w.from > ast.from || w.to < ast.to) return [];
    return [w.of.startsWith("record ") ? `${w.of}.name` : `${w.of}.*`];
  }),
];

function readBy(part: Node, { references, wholes }: Reads): string[] {
  const within = (r: { from: number; to: number }) => r.from >= part.from && r.to <= part.to;
  const named = references.filter(within).flatMap(({ name, target }) => {
    if (target.t === "name") return [name];
    if (target.t === "unknown" && target.among)
      return target.among.map((register) => `record ${register}.${name}`);
    if (target.t === "unknown") return target.outside ? [name, `*.${name}`] : [`*.${name}`];
    return target.t === "entry" && target.of !== "" ? [`${target.of}.${name}`] : [];
  });
  return [...new Set([...named, ...wholes.filter(within).map((w) => `${w.of}.*`)])];
}
