import { MAX_LINES, type Field, type StoredRow } from "@/core/form";

/** How many rows there may be. */
export const mostRows = (field: Pick<Field, "max">): number => {
  const most = Number(field.max);
  return field.max && most >= 0 ? Math.min(most, MAX_LINES) : MAX_LINES;
};

/** An id no row has, nor had: the greatest number there is, and one. */
export const nextRowId = (rows: readonly StoredRow[]): number =>
  1 + rows.reduce((n, r) => Math.max(n, Number(r["#"]) || 0), 0);

/** A row further up or down; the same rows where there is no further. */
export function rowMoved(rows: readonly StoredRow[], i: number, by: -1 | 1): readonly StoredRow[] {
  const to = i + by;
  if (to < 0 || to >= rows.length) return rows;
  const next = [...rows];
  [next[i], next[to]] = [next[to]!, next[i]!];
  return next;
}

/** A row once more below it, with what can be filled in of it. */
export function rowCopied(rows: readonly StoredRow[], i: number, columns: readonly string[]): StoredRow[] {
  const of = rows[i]!;
  const copy: StoredRow = { "#": String(nextRowId(rows)) };
  for (const id of columns) if (of[id] !== undefined) copy[id] = of[id];
  return rows.toSpliced(i + 1, 0, copy);
}

/** What was copied from a spreadsheet: rows of cells; null for a text that goes into one cell. */
export function cellsPasted(text: string): string[][] | null {
  const rows = text.replace(/\r\n?/g, "\n").replace(/\n$/, "").split("\n");
  if (rows.length === 1 && !text.includes("\t")) return null;
  return rows.map((r) => r.split("\t"));
}
