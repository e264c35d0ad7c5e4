import { compareValues, equalValues, isNum, Num, type Value } from "../expression";
import { givesList, type DecisionTable, type TableOutput } from "./table";

/** What a table asks of whoever knows the values it is worked out with; rules and inputs by their places, from 0. */
export interface TableFace {
  /** Whether the test of an input holds in a rule. */
  passes(rule: number, input: number): boolean;
  /** What an output comes to in a rule; null where nothing stands there. */
  output(rule: number | "otherwise", output: number): Value;
}

/** Why a table comes to nothing that could be gone by; rules are numbered from 1. */
export type TableFailure =
  | { code: "several-rules"; data: { first: number; second: number } }
  | { code: "rules-differ"; data: { first: number; second: number; output: string } }
  | { code: "no-rule"; data: Record<never, never> }
  | { code: "no-rank"; data: { rule: number; output: string; value: string } }
  | { code: "no-number"; data: { rule: number; output: string } };

/** What a table comes to: its outputs by name, or a list of those; and the rules it goes by, from 1. */
export type TableResult = { rules: number[]; value: Value } | { failure: TableFailure };

type Outputs = ReadonlyMap<string, Value>;

/**
 * Works a table out (DMN 1.5, 8.2.11). Where its result cannot be told from its rules it comes to a failure, and never to
 * one of several that would do: several rules of one that takes one, or any that differ.
 */
export function tableResult(table: DecisionTable, face: TableFace): TableResult {
  const { hits, rules, inputs } = table;
  const holds = (rule: number): boolean => inputs.every((_, i) => face.passes(rule, i));
  const holding: number[] = [];
  for (let r = 0; r < rules.length; r++) {
    if (!holds(r)) continue;
    holding.push(r);
    if (hits === "first") break;
    if (hits === "unique" && holding.length > 1)
      return failed("several-rules", { first: holding[0]! + 1, second: r + 1 });
  }
  const outputsOf = (rule: number | "otherwise"): Outputs =>
    new Map(table.outputs.map((o, i) => [o.name, face.output(rule, i)]));
  if (holding.length === 0) return none(table, outputsOf);
  switch (hits) {
    case "unique":
    case "first":
      return one(holding[0]!, outputsOf);
    case "any":
      return agreed(table.outputs, holding, outputsOf);
    case "priority":
    case "output order": {
      const ranked = inRank(table.outputs, holding, outputsOf);
      if ("failure" in ranked) return ranked;
      const said = ranked.map((r) => r.outputs);
      return hits === "priority"
        ? { rules: [ranked[0]!.rule + 1], value: said[0]! }
        : { rules: ranked.map((r) => r.rule + 1), value: said };
    }
    case "rule order":
      return { rules: holding.map((r) => r + 1), value: holding.map(outputsOf) };
    case "collect":
      return gathered(table, holding, outputsOf);
  }
}

const failed = <C extends TableFailure["code"]>(
  code: C,
  data: Extract<TableFailure, { code: C }>["data"],
): { failure: TableFailure } => ({ failure: { code, data } as TableFailure });

const one = (rule: number, outputsOf: (rule: number) => Outputs): TableResult => ({
  rules: [rule + 1],
  value: outputsOf(rule),
});

function none(table: DecisionTable, outputsOf: (rule: "otherwise") => Outputs): TableResult {
  if (table.otherwise) {
    const value = outputsOf("otherwise");
    return { rules: [], value: givesList(table) ? [value] : value };
  }
  if (givesList(table)) return { rules: [], value: [] };
  // None is a number of rules like any other.
  if (table.gathers === "count")
    return { rules: [], value: new Map(table.outputs.map((o) => [o.name, Num.of(0)])) };
  return table.none === "empty" ? { rules: [], value: null } : failed("no-rule", {});
}

function agreed(
  outputs: readonly TableOutput[],
  holding: readonly number[],
  outputsOf: (rule: number) => Outputs,
): TableResult {
  const [first, ...others] = holding;
  const said = outputsOf(first!);
  for (const rule of others) {
    const differs = [...outputsOf(rule)].findIndex(([name, v]) => !alike(v, said.get(name) ?? null));
    if (differs >= 0)
      return failed("rules-differ", {
        first: first! + 1,
        second: rule + 1,
        output: outputs[differs]!.name,
      });
  }
  return { rules: holding.map((r) => r + 1), value: said };
}

const alike = (a: Value, b: Value): boolean => (a === null && b === null) || equalValues(a, b) === true;

/** Those that hold, the highest first; of those that rank alike the one standing first. */
function inRank(
  outputs: readonly TableOutput[],
  holding: readonly number[],
  outputsOf: (rule: number) => Outputs,
): { rule: number; outputs: Outputs }[] | { failure: TableFailure } {
  const ranked: { rule: number; outputs: Outputs; ranks: number[] }[] = [];
  for (const rule of holding) {
    const said = outputsOf(rule);
    const places: number[] = [];
    for (const { name, values } of outputs) {
      if (!values) continue;
      const value = said.get(name) ?? null;
      const place = typeof value === "string" ? values.indexOf(value) : -1;
      if (place < 0)
        return failed("no-rank", {
          rule: rule + 1,
          output: name,
          value: typeof value === "string" ? value : "",
        });
      places.push(place);
    }
    ranked.push({ rule, outputs: said, ranks: places });
  }
  return ranked.sort((a, b) => {
    const at = a.ranks.findIndex((x, i) => x !== b.ranks[i]);
    return at < 0 ? 0 : a.ranks[at]! - b.ranks[at]!;
  });
}

function gathered(
  table: DecisionTable,
  holding: readonly number[],
  outputsOf: (rule: number) => Outputs,
): TableResult {
  const rules = holding.map((r) => r + 1);
  const said = holding.map(outputsOf);
  const { gathers } = table;
  if (gathers === undefined) return { rules, value: said };
  if (gathers === "count")
    return { rules, value: new Map(table.outputs.map((o) => [o.name, Num.of(said.length)])) };
  const value = new Map<string, Value>();
  for (const { name } of table.outputs) {
    let sum: Num | null = null;
    for (const [i, outputs] of said.entries()) {
      const v = outputs.get(name) ?? null;
      // One that is empty would be left out of a sum without a word.
      if (!isNum(v)) return failed("no-number", { rule: rules[i]!, output: name });
      sum = sum === null ? v : GATHER[gathers](sum, v);
    }
    value.set(name, sum);
  }
  return { rules, value };
}

const GATHER: Readonly<Record<"sum" | "min" | "max", (a: Num, b: Num) => Num>> = {
  sum: (a, b) => a.plus(b),
  min: (a, b) => ((compareValues(a, b) ?? 0) <= 0 ? a : b),
  max: (a, b) => ((compareValues(a, b) ?? 0) >= 0 ? a : b),
};
