import { readText } from "@/core/expression";
import { factsFrom, fieldValue, type Column, type Stored } from "@/core/form";
import {
  MOST_LABELS,
  MOST_OF_A_PAPER,
  type Label,
  type LabelGrid,
  type LabelSheet,
  type Paper,
} from "@/core/paper";
import { fieldOfColumn } from "@/core/records";
import { Temporal } from "temporal-polyfill";
import { KINDS } from "@/kinds";
import { Failed } from "../kernel/failure";
import { LANGUAGE, printLabels, printPaper } from "../printing/printPaper";

/** A cell, as it is kept and as a sheet would have it. */
export interface CellToPrint {
  column: Column;
  stored: Stored;
  text: string;
}

/** Values that stand for nothing else read by themselves; nobody's clock is needed for that. */
const ALONE = factsFrom(
  { people: {}, registers: {}, records: {} },
  { now: Temporal.Instant.fromEpochMilliseconds(0).toZonedDateTimeISO("UTC") },
  KINDS.fields,
);

/** A cell as people read it: days with their weekday, money with its cents, names of people and records. */
export function cellToPrint({ column, stored, text }: CellToPrint): string {
  const kind = KINDS.fields[column.kind];
  if (kind.idOf !== null || stored === null || stored === "" || Array.isArray(stored)) return text;
  const read = fieldValue(fieldOfColumn(column), stored, KINDS.fields, ALONE);
  if (read === null) return text;
  return kind.has.money ? `EUR ${readText(read, true)}` : readText(read);
}

const tooMany = (message: string) => new Failed({ code: "invalid", data: { path: "", message } });

/** A list as pages to read. */
export function paperWriter(name: string, columns: readonly Column[]) {
  const rows: string[][] = [];
  const most = Math.floor(MOST_OF_A_PAPER / Math.max(1, columns.length)) - 10;
  return {
    add(cells: readonly CellToPrint[]) {
      rows.push(cells.map(cellToPrint));
      if (rows.length > most)
        throw tooMany(
          `A PDF holds up to ${most.toLocaleString("en")} of ${name} with these columns. Narrow the list down first, or save a spreadsheet.`,
        );
    },
    end: () => printPaper(listPaper(name, columns, rows)),
  };
}

const listPaper = (name: string, columns: readonly Column[], rows: string[][]): Paper => ({
  title: name,
  above: rows.length === 1 ? "1 record" : `${rows.length.toLocaleString("en")} records`,
  foot: name,
  language: LANGUAGE,
  blocks: [
    {
      is: "table",
      head: columns.map((c) => ({ name: c.name, figures: KINDS.fields[c.kind].has.range === "number" })),
      rows,
      sums: null,
    },
  ],
});

/** The same as labels: the first column in bold on each, the others below it. What is empty takes no line. */
export function labelWriter(name: string, grid: LabelGrid) {
  const labels: Label[] = [];
  return {
    add(cells: readonly CellToPrint[]) {
      const [heading = "", ...lines] = cells.map(cellToPrint);
      labels.push({ heading, lines: lines.filter((l) => l !== "") });
      if (labels.length > MOST_LABELS)
        throw tooMany(
          `At most ${MOST_LABELS.toLocaleString("en")} labels are printed at once. Narrow the list down first.`,
        );
    },
    end: () => {
      const sheet: LabelSheet = { ...grid, title: `Labels: ${name}`, language: LANGUAGE, labels };
      return printLabels(sheet);
    },
  };
}
