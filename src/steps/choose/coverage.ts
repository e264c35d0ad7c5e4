import { Temporal } from "temporal-polyfill";
import {
  compile,
  environment,
  evaluate,
  Num,
  parseFormula,
  type Node,
  type Scope,
  type Value,
} from "@/core/expression";
import { flatFields, type Field } from "@/core/form";
import type { StepOf } from "@/core/route";

/**
 * An example that falls through the conditions of a Choose, as a sentence, or null when none was found.
 * Tries the values around every number the conditions compare a single name with: gaps at a border
 * ("exactly 500") are by far the commonest mistake.
 */
export function uncovered(step: StepOf<"choose">, scope: Scope, fields: readonly Field[]): string | null {
  const trees = step.ways.map((w) => (w.when ? parseFormula(w.when, scope).ast : null));
  if (trees.some((t) => t === null)) return null;
  const points = new Map<string, Set<string>>();
  for (const t of trees) borders(t!, points);
  const names = [...points.keys()];
  if (names.length !== 1) return null;
  const name = names[0]!;
  const field = flatFields(fields).find((f) => f.name === name);
  const step1 = Num.of(field?.kind === "money" ? "0.01" : 1);
  const now = Temporal.ZonedDateTime.from("2026-01-01T00:00[UTC]");
  const sorted = [...points.get(name)!].map((p) => Num.of(p)).sort((a, b) => a.comparedTo(b));
  const candidates = sorted.flatMap((p) => [p.minus(step1), p, p.plus(step1)]);
  for (const value of candidates) {
    const env = environment(new Map<string, Value>([[name, value]]), { now });
    if (!trees.some((t) => evaluate(compile(t!), env) === true)) {
      const exact = sorted.some((p) => p.comparedTo(value) === 0);
      return `${exact ? "Exactly " : ""}${value.toFixed()} goes nowhere: no way holds for that ${name}.`;
    }
  }
  return null;
}

function borders(n: Node, out: Map<string, Set<string>>): void {
  const note = (name: Node, value: Node) => {
    if (name.k === "name" && value.k === "num")
      out.set(name.name, (out.get(name.name) ?? new Set()).add(value.text));
    else if (name.k === "name" && value.k !== "num") out.set(`${name.name} and more`, new Set());
  };
  switch (n.k) {
    case "and":
    case "or":
      borders(n.left, out);
      borders(n.right, out);
      return;
    case "cmp":
      if (n.right.k === "name") note(n.right, n.left);
      else note(n.left, n.right);
      return;
    case "between":
      note(n.of, n.low);
      note(n.of, n.high);
      return;
    default:
      out.set("something else", new Set());
  }
}
