/**
 * A cell of a sheet. `typed`: the sheet itself says what it holds, in decimal text, ISO date or "true" and "false", so
 * that there is nothing to guess.
 */
export interface SheetCell {
  text: string;
  typed?: true;
  /** Of a number that is shown with a per cent sign: how many hundredths it is. */
  hundredths?: string;
}

/** How the texts of a sheet are read where they can be read in more than one way. */
export interface SheetReading {
  /** Which stands first in 03/04/2026. */
  dates: "day" | "month";
  /** What parts the whole from the rest in 1.250. */
  decimal: "." | ",";
}

/** Whom or what a text names: nobody, or more than one, are told apart. */
export type Named = { id: string } | { why: "none" | "several" };

/** What cells are read with. `named` looks among the people of the office, or the records a column points at. */
export interface CellContext {
  reading: SheetReading;
  named(text: string): Named;
}

/** A cell as its column keeps it; what cannot be read stays as it stands, for the column's own checks to refuse. */
export type CellRead = { kept: string | boolean | null } | { why: "none" | "several"; text: string };

/** A cell without what surrounds it, and without the mark that keeps a spreadsheet from working it out. */
export const textInCell = (cell: SheetCell): string => cell.text.trim().replace(/^'(?=[=+\-@])/, "");

/** Text of one thing or another as it stands; an empty cell is nothing. */
export const plainCell = (cell: SheetCell): CellRead => ({ kept: textInCell(cell) || null });

/** What a text names, by name. */
export function namedCell(cell: SheetCell, { named }: CellContext): CellRead {
  const text = textInCell(cell);
  if (text === "") return { kept: null };
  const found = named(text);
  return "id" in found ? { kept: found.id } : { why: found.why, text };
}

/**
 * A number as decimal text, groups of three taken together; null for what is none in this reading.
 * @param decimal the sign before the part of a whole
 */
export function numberInCell(text: string, decimal: SheetReading["decimal"]): string | null {
  const t = text.replace(/[\s\u00a0\u202f'’]/g, "").replace(/^\+/, "");
  const group = decimal === "." ? "," : "\\.";
  const part = decimal === "." ? "\\." : ",";
  const shape = new RegExp(`^(-?)(\\d+|\\d{1,3}(?:${group}\\d{3})+)(?:${part}(\\d+))?$`);
  const m = shape.exec(t);
  if (!m) return null;
  const [, sign = "", whole = "", rest] = m;
  return `${sign}${whole.replace(/[.,]/g, "")}${rest === undefined ? "" : `.${rest}`}`;
}

export function numberCell(cell: SheetCell, { reading }: CellContext): CellRead {
  const text = textInCell(cell);
  if (text === "" || cell.typed) return { kept: text || null };
  return { kept: numberInCell(text, reading.decimal) ?? text };
}

const MONTHS = "jan feb mar apr may jun jul aug sep oct nov dec".split(" ");
const two = (n: string | number): string => String(n).padStart(2, "0");
const iso = (y: string, m: string | number, d: string): string => `${y}-${two(m)}-${two(d)}`;

/**
 * A date as ISO 8601; null for what is none in this reading. That there is such a day is the column's to check. A year
 * needs its four figures: of two it cannot be told which hundred they are of.
 */
export function dateInCell(text: string, dates: SheetReading["dates"]): string | null {
  const t = text.replace(/[T ]00:00(:00(\.0+)?)?Z?$/, "");
  const year = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/.exec(t);
  if (year) return iso(year[1]!, year[2]!, year[3]!);
  const figures = /^(\d{1,2})\s*[-/.]\s*(\d{1,2})\s*[-/.]\s*(\d{4})$/.exec(t);
  if (figures) {
    const [, a = "", b = "", y = ""] = figures;
    return dates === "day" ? iso(y, b, a) : iso(y, a, b);
  }
  const words =
    /^(\d{1,2})\.?\s+(\p{L}+)\.?,?\s+(\d{4})$/u.exec(t) ?? /^(\p{L}+)\.?\s+(\d{1,2}),?\s+(\d{4})$/u.exec(t);
  if (!words) return null;
  const [, a = "", b = "", y = ""] = words;
  const [day, month] = /^\d/.test(a) ? [a, b] : [b, a];
  const nth = MONTHS.indexOf(month.slice(0, 3).toLowerCase());
  return nth < 0 ? null : iso(y, nth + 1, day);
}

export function dateCell(cell: SheetCell, { reading }: CellContext): CellRead {
  const text = textInCell(cell);
  return { kept: text === "" ? null : (dateInCell(text, reading.dates) ?? text) };
}

const YES = new Set(["yes", "y", "true", "1", "x", "✓"]);
const NO = new Set(["no", "n", "false", "0", "-"]);
export function yesOrNoCell(cell: SheetCell): CellRead {
  const text = textInCell(cell);
  if (text === "") return { kept: null };
  if (YES.has(text.toLowerCase())) return { kept: true };
  return { kept: NO.has(text.toLowerCase()) ? false : text };
}

/** A time of day as "14:30"; null for what is none. Seconds are left off, and must be none. */
export function timeInCell(text: string): string | null {
  const m =
    /^(?:(?:1899-12-30|1900-01-00)[T ])?(\d{1,2})[:.](\d{2})(?::00(?:\.0+)?)?Z?\s*(?:([ap])\.?\s*m\.?)?$/i.exec(
      text,
    );
  if (!m) return null;
  const [, h = "", minute = "", half] = m;
  let hour = Number(h);
  if (Number(minute) > 59 || hour > 23) return null;
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half.toLowerCase() === "p" ? 12 : 0);
  }
  return `${two(hour)}:${minute}`;
}

/** A date and a time of day as "2026-11-30T14:30"; a date alone is its midnight; null for what is neither. */
export function momentInCell(text: string, dates: SheetReading["dates"]): string | null {
  const day = dateInCell(text, dates);
  if (day !== null) return `${day}T00:00`;
  const m = /^(.*?\d{2,4})(?:T|,?\s+)(\d{1,2}[:.]\d{2}.*)$/.exec(text);
  const date = m && dateInCell(m[1]!, dates);
  const time = m && timeInCell(m[2]!);
  return date && time ? `${date}T${time}` : null;
}
