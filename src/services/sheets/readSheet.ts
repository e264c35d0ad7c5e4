import type { SheetCell } from "@/core/form";
import type { SheetRow } from "@/core/sheets";
import { readCsv } from "./readCsv";
import { readXlsx } from "./readXlsx";
import { MOST_CELL, MOST_COLUMNS } from "./sheetLimits";

export interface Sheet {
  headings: string[];
  rows: SheetRow[];
  /** What was noticed while reading, in words. */
  notes: string[];
}
export type ReadSheet = { ok: true; sheet: Sheet } | { ok: false; why: string };

const starts = (bytes: Buffer, ...with_: number[]): boolean => with_.every((b, i) => bytes[i] === b);

/** Reads a CSV or XLSX file, told apart by what is in it, not by its name. */
export async function readSheet(bytes: Buffer): Promise<ReadSheet> {
  if (bytes.length === 0) return { ok: false, why: "The file is empty." };
  if (starts(bytes, 0xd0, 0xcf, 0x11, 0xe0))
    return {
      ok: false,
      why: "This is a spreadsheet of an older kind (.xls), or one with a password. Save it as .xlsx or .csv without a password, and bring that in.",
    };
  const lines = starts(bytes, 0x50, 0x4b, 3, 4) ? await readXlsx(bytes) : readCsv(bytes);
  return lines.ok ? headed(lines.lines, lines.notes) : lines;
}

const blank = (c: SheetCell): boolean => c.text.trim() === "";

/** Takes the first line that holds anything as the headings. */
function headed(lines: readonly SheetRow[], notes: string[]): ReadSheet {
  const filled = lines.filter((l) => !l.cells.every(blank));
  const [head, ...rows] = filled;
  if (!head) return { ok: false, why: "Nothing stands in the sheet." };
  const width = Math.max(...filled.map((l) => lastFilled(l.cells)));
  if (width > MOST_COLUMNS)
    return { ok: false, why: `The sheet has ${width} columns; up to ${MOST_COLUMNS} are read.` };
  if (rows.length === 0)
    return {
      ok: false,
      why: "The sheet has headings and nothing below them. Its first line names the columns.",
    };
  const long = rows.find((r) => r.cells.some((c) => c.text.length > MOST_CELL));
  if (long)
    return {
      ok: false,
      why: `A cell of line ${long.line} has more than ${MOST_CELL} characters; shorten it.`,
    };
  const headings = Array.from({ length: width }, (_, i) => (head.cells[i]?.text ?? "").trim().slice(0, 200));
  return { ok: true, sheet: { headings, rows, notes } };
}

const lastFilled = (cells: readonly SheetCell[]): number => {
  for (let i = cells.length; i > 0; i--) if (!blank(cells[i - 1]!)) return i;
  return 0;
};
