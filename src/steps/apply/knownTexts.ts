import { parseFormula } from "@/core/expression";
import type { CellValue, TableOutput } from "@/core/decision";
import type { Apply } from "./shape";

/** The text that is written out in a cell; null for any other formula. */
export function textIn(formula: string | undefined): string | null {
  if (!formula?.trimStart().startsWith('"')) return null;
  // Most of a thousand cells are this plain.
  if (/^"[^"\\]*"$/.test(formula)) return formula.slice(1, -1);
  const { ast } = parseFormula(formula, {});
  return ast?.k === "str" ? ast.text : null;
}

export const cellOf = (cells: readonly CellValue[] | undefined, output: string): string | undefined =>
  cells?.find((c) => c.output === output)?.value;

/** All texts an output may come to besides nothing, where each is written out; null where one is not. */
export function knownTexts(s: Pick<Apply, "rules" | "otherwise">, o: TableOutput): string[] | null {
  const texts = new Set<string>();
  for (const cells of [...s.rules.map((r) => r.then), ...(s.otherwise ? [s.otherwise] : [])]) {
    const cell = cellOf(cells, o.id);
    if (!cell) continue;
    const text = textIn(cell);
    if (text === null) return null;
    texts.add(text);
  }
  return [...texts];
}
