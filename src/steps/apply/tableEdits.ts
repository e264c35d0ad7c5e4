import { MOST_RULES, type TableInput, type TableOutput, type TableRule } from "@/core/decision";
import type { Apply } from "./shape";

/** A column of a table: an input that is tested, or an output that is given. */
export type Column = { input: TableInput } | { output: TableOutput };
export const columnsOf = (s: Pick<Apply, "inputs" | "outputs">): Column[] => [
  ...s.inputs.map((input) => ({ input })),
  ...s.outputs.map((output) => ({ output })),
];

export function cellText(r: Pick<TableRule, "when" | "then">, c: Column): string {
  if ("input" in c) return r.when.find((x) => x.input === c.input.id)?.test ?? "";
  return r.then.find((x) => x.output === c.output.id)?.value ?? "";
}

/** A rule with another text in a cell; what tests nothing, or gives nothing, does not stand there. */
export function withCell(r: TableRule, c: Column, text: string): TableRule {
  if ("input" in c) {
    const { id } = c.input;
    const others = r.when.filter((x) => x.input !== id);
    return { ...r, when: text ? [...others, { input: id, test: text }] : others };
  }
  const { id } = c.output;
  const others = r.then.filter((x) => x.output !== id);
  return { ...r, then: text ? [...others, { output: id, value: text }] : others };
}

/** A rule in which nothing stands yet. */
export const isBlank = (r: TableRule): boolean => r.when.length === 0 && r.then.length === 0;
export const blankRule = (id: string): TableRule => ({ id, when: [], then: [] });

/** The table without a column, and without what stood in it. */
export function withoutColumn(s: Apply, c: Column): Partial<Apply> {
  if ("input" in c) {
    const { id } = c.input;
    return {
      inputs: s.inputs.filter((i) => i.id !== id),
      rules: s.rules.map((r) => ({ ...r, when: r.when.filter((x) => x.input !== id) })),
    };
  }
  const { id } = c.output;
  const without = (cells: TableRule["then"]) => cells.filter((x) => x.output !== id);
  return {
    outputs: s.outputs.filter((o) => o.id !== id),
    rules: s.rules.map((r) => ({ ...r, then: without(r.then) })),
    ...(s.otherwise ? { otherwise: without(s.otherwise) } : {}),
  };
}

/** Cells of a spreadsheet as they are copied: rows apart by lines, cells by tabs; one with either stands in quotes. */
export function pastedCells(text: string): string[][] {
  const rows: string[][] = [[]];
  for (const m of text
    .replace(/\r\n?/g, "\n")
    .matchAll(/(?:^|(?<=[\t\n]))"((?:[^"]|"")*)"(?=[\t\n]|$)|[^\t\n]+|\t|\n/g)) {
    const row = rows.at(-1)!;
    if (m[0] === "\n") rows.push([]);
    else if (m[0] === "\t") row.push("");
    else {
      // A text of the language in quotes stays one: only what a spreadsheet had to quote is taken out of them.
      const cell = m[1] !== undefined && /[\t\n]|""/.test(m[1]) ? m[1].replace(/""/g, '"') : m[0];
      row[Math.max(0, row.length - 1)] = cell;
    }
  }
  while (rows.length > 1 && rows.at(-1)!.every((c) => c === "")) rows.pop();
  return rows;
}

/**
 * The rules with cells put over them from one cell on, rules that are missing added behind.
 * @param typed what a text that is typed in a column stands as
 * @param id a free id, among those taken
 */
export function withPasted(
  s: Apply,
  at: { rule: number; column: number },
  cells: readonly (readonly string[])[],
  typed: (c: Column, text: string) => string,
  id: (taken: (id: string) => boolean) => string,
): { rules: TableRule[]; left: number } {
  const columns = columnsOf(s);
  const rules = [...s.rules];
  let left = 0;
  for (const [i, row] of cells.entries()) {
    const n = at.rule + i;
    if (n >= MOST_RULES) {
      left = cells.length - i;
      break;
    }
    let rule = rules[n] ?? blankRule(id((x) => rules.some((r) => r.id === x)));
    for (const [k, cell] of row.entries()) {
      const c = columns[at.column + k];
      if (c) rule = withCell(rule, c, typed(c, cell));
    }
    rules[n] = rule;
  }
  return { rules, left };
}
