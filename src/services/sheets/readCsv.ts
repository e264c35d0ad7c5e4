import Papa from "papaparse";
import type { Lines } from "./lines";
import { MOST_ROWS } from "./sheetLimits";

/** The text of a file, and how it was written where that had to be found out; null where it is no text. */
export function textOf(bytes: Buffer): { text: string; note: string | null } | null {
  const bom = bytes.subarray(0, 2).toString("hex");
  if (bom === "fffe" || bom === "feff") {
    const text = new TextDecoder(bom === "fffe" ? "utf-16le" : "utf-16be").decode(bytes);
    return { text, note: null };
  }
  // A null character stands in no text of the encodings that are left.
  if (bytes.subarray(0, 100_000).includes(0)) return null;
  try {
    return { text: new TextDecoder("utf-8", { fatal: true }).decode(bytes), note: null };
  } catch {
    const note =
      "The file is not written as UTF-8, and was read as Windows-1252 (Western European). Look at its accents before you go on.";
    return { text: new TextDecoder("windows-1252").decode(bytes), note };
  }
}

/** Reads rows parted by commas, semicolons, tabs or bars (RFC 4180, and what programs make of it). */
export function readCsv(bytes: Buffer): Lines {
  const read = textOf(bytes);
  if (!read)
    return {
      ok: false,
      why: "This is neither a text (.csv) nor a spreadsheet (.xlsx). Save it as one of them.",
    };
  const notes = read.note ? [read.note] : [];
  const text = read.text.replace(/^\ufeff/, "");
  // Empty lines count as lines, but not when the sign between cells is found out.
  const { delimiter } = Papa.parse(text, {
    delimitersToGuess: [",", ";", "\t", "|"],
    preview: 50,
    skipEmptyLines: "greedy",
  }).meta;
  const { data, errors } = Papa.parse<string[]>(text, { delimiter, preview: MOST_ROWS + 50 });
  const open = errors.find((e) => e.type === "Quotes");
  if (open)
    return {
      ok: false,
      why: `Line ${(open.row ?? 0) + 1} has a quotation mark that is not closed, so that it cannot be told where its cells end. Mend it, and bring the file in again.`,
    };
  if (data.length > MOST_ROWS + 1)
    return {
      ok: false,
      why: `The sheet has more than ${MOST_ROWS.toLocaleString("en")} rows; up to that many are brought in at once. Part it into several.`,
    };
  return {
    ok: true,
    lines: data.map((r, i) => ({ line: i + 1, cells: r.map((text) => ({ text })) })),
    notes,
  };
}
