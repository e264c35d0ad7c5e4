import { PassThrough } from "node:stream";
import { buffer } from "node:stream/consumers";
import ExcelJS from "exceljs";
import Papa from "papaparse";
import type { Column, Registers, RegisterShape } from "@/core/form";
import { gridMistake, type LabelGrid } from "@/core/paper";
import { storedText, type IdNames } from "@/core/sheets";
import { getPool, registers, searching, type RecordRow, type RecordSearch } from "@/db";
import { KINDS } from "@/kinds";
import { defineUseCase } from "../kernel/defineUseCase";
import { personName } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { seenView } from "../registers/seenView";
import { FORMULA_SIGNS } from "./formulaSigns";
import { labelWriter, paperWriter, type CellToPrint } from "./printedWriters";
import { linkName } from "./sheetNames";

/** Records one file holds at most. */
export const MOST_EXPORTED = 100_000;
const LOT = 2000;

/** As what a list is saved; as labels, where it is said how their sheets are parted. */
export type ExportAs = ExportFormat | LabelGrid;
type ExportFormat = "csv" | "xlsx" | "pdf";
export interface Exported {
  name: string;
  type: string;
  bytes: Buffer;
}
const TYPES = {
  csv: "text/csv; charset=utf-8",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  pdf: "application/pdf",
} satisfies Record<ExportFormat, string>;

/** What a file is written with, record by record. */
interface Writer {
  add(cells: CellToPrint[]): void;
  end(): Promise<Buffer>;
}

/**
 * The records of a view as a file: those that are found, in their order, with the columns that are shown. What is
 * written reads back as it was: ISO dates, decimal points, names of people and records.
 * @param columns ids; all that are seen where none of them is there
 */
export const exportRecords = defineUseCase(
  ["read register"],
  async (
    c,
    key: string,
    search: Omit<RecordSearch, "offset" | "limit">,
    condition: string,
    columns: readonly string[],
    as: ExportAs,
  ): Promise<Exported> => {
    const mistake = typeof as === "string" ? null : gridMistake(as);
    if (mistake !== null) throw new Failed({ code: "invalid", data: { path: "format", message: mistake } });
    const db = getPool();
    const { d, seen, shape, where } = await seenView(c, db, key, condition);
    const wanted = columns.flatMap((id) => shape.columns.filter((x) => x.id === id));
    const shown = wanted.length > 0 ? wanted : shape.columns;
    const writer = writerFor(as, shape.name, shown);
    let count = 0;
    await searching(async (on) => {
      for await (const lot of registers.eachRecord(
        on,
        shape,
        seen,
        { ...search, ...where },
        d.registers[key]!,
        LOT,
      )) {
        count += lot.length;
        if (count > MOST_EXPORTED) throw tooMany(shape.name);
        for (const r of lot) {
          const names = namesIn(r, shape, seen, (id) => personName(d, id));
          writer.add(
            shown.map((x) => ({
              column: x,
              stored: r[x.id] ?? null,
              text: storedText(x, r[x.id], names, KINDS.fields),
            })),
          );
        }
      }
    });
    // Noted once there is something to hand over: what is too long to be printed is refused.
    const bytes = await writer.end();
    await noteEntry(c.actor, { what: "exported", data: { of: `${count} of ${shape.name}` } });
    if (typeof as !== "string") return { name: `${shape.name}, labels.pdf`, type: TYPES.pdf, bytes };
    return { name: `${shape.name}.${as}`, type: TYPES[as], bytes };
  },
);

const tooMany = (name: string) =>
  new Failed({
    code: "invalid",
    data: {
      path: "",
      message: `More than ${MOST_EXPORTED.toLocaleString("en")} of ${name} match; a file holds up to that many. Narrow the list down first.`,
    },
  });

const namesIn = (
  r: RecordRow,
  shape: RegisterShape,
  seen: Registers,
  person: IdNames["person"],
): IdNames => ({
  person,
  record(column, raw) {
    const title = r[`${column}#`];
    const c = shape.columns.find((x) => x.id === column);
    return typeof title === "string" && c ? linkName(c, raw, title, seen) : raw;
  },
  file: (column, id) => String(r[`${column}#`] ?? id),
});

const WRITERS = {
  csv(_, columns) {
    const parts = [csvOf([columns.map((c) => c.name)])];
    let rows: string[][] = [];
    const flush = () => {
      if (rows.length > 0) parts.push(csvOf(rows));
      rows = [];
    };
    return {
      add(cells) {
        rows.push(cells.map((x) => x.text));
        if (rows.length >= LOT) flush();
      },
      // The mark by which spreadsheets know that it is UTF-8.
      end: async () => (flush(), Buffer.from(`\ufeff${parts.join("\r\n")}\r\n`, "utf8")),
    };
  },
  xlsx(name, columns) {
    const out = new PassThrough();
    const bytes = buffer(out);
    const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true });
    const sheet = book.addWorksheet(name.replace(/[\\/?*[\]:]/g, " ").slice(0, 31), {
      views: [{ state: "frozen", ySplit: 1 }],
    });
    sheet.columns = columns.map((c) => ({
      header: c.name,
      width: Math.min(40, Math.max(12, c.name.length + 2)),
    }));
    sheet.getRow(1).font = { bold: true };
    sheet.getRow(1).commit();
    return {
      add(cells) {
        const row = sheet.addRow(cells.map(typedCell));
        for (const [i, x] of cells.entries())
          if (KINDS.fields[x.column.kind].has.range === "date") row.getCell(i + 1).numFmt = "yyyy-mm-dd";
        row.commit();
      },
      async end() {
        await book.commit();
        return bytes;
      },
    };
  },
  pdf: paperWriter,
} satisfies Record<ExportFormat, (name: string, columns: readonly Column[]) => Writer>;

const writerFor = (as: ExportAs, name: string, columns: readonly Column[]): Writer =>
  typeof as === "string" ? WRITERS[as](name, columns) : labelWriter(name, as);

const csvOf = (rows: string[][]): string =>
  Papa.unparse(rows, { escapeFormulae: FORMULA_SIGNS, newline: "\r\n" });

/** Days before this one spreadsheets do not know, or count wrongly; they stay a text. */
const FIRST_DAY = "1900-03-01";
/** A cell as spreadsheets reckon with it; a number of more figures than they keep stays a text. */
function typedCell({
  column,
  stored,
  text,
}: Parameters<Writer["add"]>[0][number]): string | number | boolean | Date {
  if (typeof stored === "boolean") return stored;
  const { range } = KINDS.fields[column.kind].has;
  if (range === "number" && text !== "" && text.replace(/\D/g, "").length <= 15) return Number(text);
  return range === "date" && text >= FIRST_DAY ? new Date(`${text}T00:00:00Z`) : text;
}
