import { Readable } from "node:stream";
import ExcelJS from "exceljs";
import yauzl from "yauzl";
import type { SheetCell } from "@/core/form";
import type { SheetRow } from "@/core/sheets";
import type { Lines } from "./lines";
import { MOST_COLUMNS, MOST_ROWS, MOST_UNPACKED } from "./sheetLimits";

const NOT_READ =
  "The spreadsheet cannot be read. Open it in a spreadsheet program, save it anew as .xlsx, and bring that in.";

/**
 * Reads the first sheet of a spreadsheet (Office Open XML). What its cells hold as numbers, dates and yes or no is taken
 * as such; of a formula what it came to when it was saved.
 */
export async function readXlsx(bytes: Buffer): Promise<Lines> {
  const size = await unpackedSize(bytes).catch(() => null);
  if (size === null) return { ok: false, why: NOT_READ };
  if (size > MOST_UNPACKED)
    return { ok: false, why: "The spreadsheet is too large once it is unpacked. Part it into several." };
  try {
    return await firstSheet(bytes);
  } catch {
    return { ok: false, why: NOT_READ };
  }
}

/**
 * What an archive comes to once it is unpacked, counted by unpacking it: what it says of itself need not be so.
 * @returns more than `MOST_UNPACKED` as soon as it is that much
 */
function unpackedSize(bytes: Buffer): Promise<number> {
  return new Promise((resolve, reject) => {
    yauzl.fromBuffer(bytes, { lazyEntries: true }, (opening, zip) => {
      if (opening) return reject(opening);
      let size = 0;
      const end = (total: number) => {
        zip.close();
        resolve(total);
      };
      zip.on("error", reject);
      zip.on("end", () => end(size));
      zip.on("entry", (entry: yauzl.Entry) => {
        if (size + entry.uncompressedSize > MOST_UNPACKED) return end(MOST_UNPACKED + 1);
        zip.openReadStream(entry, (failed, stream) => {
          if (failed) return reject(failed);
          // More than was announced is an error of the stream.
          stream.on("error", reject);
          stream.on("data", (d: Buffer) => (size += d.length));
          stream.on("end", () => zip.readEntry());
        });
      });
      zip.readEntry();
    });
  });
}

async function firstSheet(bytes: Buffer): Promise<Lines> {
  const book = new ExcelJS.stream.xlsx.WorkbookReader(Readable.from([bytes]), {
    sharedStrings: "cache",
    styles: "cache",
    hyperlinks: "ignore",
    worksheets: "emit",
    entries: "ignore",
  });
  const lines: SheetRow[] = [];
  const notes: string[] = [];
  let sheets = 0;
  let far = false;
  for await (const sheet of book) {
    if (++sheets > 1) continue;
    for await (const row of sheet) {
      const cells: SheetCell[] = [];
      row.eachCell((cell, at) => {
        if (at > MOST_COLUMNS + 1) far = true;
        else cells[at - 1] = inHundredths(cellOf(cell.value), cell.numFmt);
      });
      // A row far down with nothing before it is no row of the table.
      if (cells.length > 0)
        lines.push({ line: row.number, cells: Array.from(cells, (c) => c ?? { text: "" }) });
      if (lines.length > MOST_ROWS + 1)
        return {
          ok: false,
          why: `The sheet has more than ${MOST_ROWS.toLocaleString("en")} rows; up to that many are brought in at once. Part it into several.`,
        };
    }
  }
  if (far)
    return {
      ok: false,
      why: `The sheet has cells beyond its column ${MOST_COLUMNS}; up to that many are read.`,
    };
  if (sheets > 1) notes.push(`The file has ${sheets} sheets; the first one was read.`);
  return { ok: true, lines, notes };
}

/** What is shown with a per cent sign is kept as a part of one; a column of percentages takes it as it is shown. */
function inHundredths(cell: SheetCell, format: string | undefined): SheetCell {
  const isNumber = cell.typed && format?.includes("%") && /^-?\d+(\.\d+)?$/.test(cell.text);
  return isNumber ? { ...cell, hundredths: decimalOf(Number(cell.text) * 100) } : cell;
}

const typed = (text: string): SheetCell => ({ text, typed: true });

function cellOf(v: ExcelJS.CellValue): SheetCell {
  if (v === null || v === undefined) return { text: "" };
  if (typeof v === "string") return { text: v };
  if (typeof v === "number") return typed(decimalOf(v));
  if (typeof v === "boolean") return typed(String(v));
  if (v instanceof Date) return dateOf(v);
  if ("result" in v) return cellOf(v.result ?? null);
  if ("richText" in v) return { text: v.richText.map((r) => r.text).join("") };
  if ("text" in v) return { text: String(v.text) };
  // What a formula failed with, as it is shown: the column refuses it, or a text keeps it.
  if ("error" in v) return { text: v.error };
  return { text: "" };
}

/**
 * A number as it was typed: spreadsheets keep numbers in binary, of which fifteen figures are certain (IEEE 754), so that
 * 0.1 + 0.2 reads as 0.3.
 */
function decimalOf(n: number): string {
  const text = String(Number(n.toPrecision(15)));
  return text.includes("e")
    ? Number(text)
        .toFixed(20)
        .replace(/\.?0+$/, "")
    : text;
}

/** Spreadsheet dates have no zone, and come as if in UTC. One that came a moment before midnight is the next day's. */
function dateOf(d: Date): SheetCell {
  if (Number.isNaN(d.getTime())) return { text: "" };
  const whole = new Date(Math.round(d.getTime() / 1000) * 1000).toISOString();
  return typed(whole.endsWith("T00:00:00.000Z") ? whole.slice(0, 10) : whole.slice(0, 16).replace("T", " "));
}
