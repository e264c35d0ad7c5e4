import {
  dateInCell,
  momentInCell,
  numberInCell,
  textInCell,
  timeInCell,
  yesOrNoCell,
  type ColumnKind,
  type SheetCell,
  type SheetReading,
} from "../form";

/** Something of one of so few sorts is a choice, where each sort stands there several times. */
const MOST_SORTS = 12;
const TIMES_EACH = 3;
const LONG = 120;
const SORT_LENGTH = 40;

export interface GuessedKind {
  kind: ColumnKind;
  options?: string[];
}

/**
 * What a column of a sheet seems to hold, by its cells. Only what all of them are counts: a single one that is none is
 * a text. Figures with a nought in front are codes.
 */
export function guessKind(heading: string, cells: readonly SheetCell[], reading: SheetReading): GuessedKind {
  const filled = cells.filter((c) => textInCell(c) !== "");
  const texts = filled.map(textInCell);
  const all = (is: (text: string, cell: SheetCell) => boolean) =>
    filled.length > 0 && filled.every((c, i) => is(texts[i]!, c));
  if (all((t) => /\D/.test(t) && typeof kept(t) === "boolean")) return { kind: "yes or no" };
  if (all((t) => dateInCell(t, reading.dates) !== null)) return { kind: "date" };
  if (all((t) => momentInCell(t, reading.dates) !== null)) return { kind: "date and time" };
  if (all((t) => timeInCell(t) !== null && t.includes(":"))) return { kind: "time" };
  if (all((t) => /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(t))) return { kind: "e-mail" };
  if (all((t) => /^https?:\/\/\S+$/i.test(t))) return { kind: "web address" };
  const euro = /^\s*(?:€|EUR)\s*|\s*(?:€|EUR)\s*$/g;
  const number = (t: string, c: SheetCell) =>
    !/^0\d/.test(t) &&
    (c.typed ? /^-?\d/.test(t) : numberInCell(t.replace(euro, ""), reading.decimal) !== null);
  if (all(number)) {
    const money =
      /\b(price|cost|amount|value|total|fee|budget|eur|worth)\b/i.test(heading) ||
      texts.some((t) => /€|EUR/.test(t));
    return { kind: money ? "money" : "number" };
  }
  if (texts.some((t) => t.length > LONG || t.includes("\n"))) return { kind: "long text" };
  const sorts = [...new Set(texts)];
  const few = sorts.length <= MOST_SORTS && texts.length >= sorts.length * TIMES_EACH;
  if (few && sorts.length > 1 && sorts.every((s) => s.length <= SORT_LENGTH))
    return { kind: "choice", options: sorts.sort() };
  return { kind: "text" };
}

function kept(text: string): string | boolean | null {
  const read = yesOrNoCell({ text });
  return "kept" in read ? read.kept : null;
}
