import { dateInCell, textInCell, type SheetCell, type SheetReading } from "../form";

const FIGURES = /^(\d{1,2})\s*[-/.]\s*(\d{1,2})\s*[-/.]\s*\d{4}$/;

/**
 * How the dates of a sheet are read: as the most of them that read in one way only. Where nothing tells, the day stands
 * first.
 */
export function guessDates(cells: Iterable<SheetCell>): SheetReading["dates"] {
  let [day, month] = [0, 0];
  for (const cell of cells) {
    const m = FIGURES.exec(textInCell(cell));
    if (!m) continue;
    const [first, second] = [Number(m[1]), Number(m[2])];
    if (first > 12 && second <= 12) day++;
    else if (second > 12 && first <= 12) month++;
  }
  return month > day ? "month" : "day";
}

/**
 * The sign before the part of a whole, as the most numbers have it that read in one way only: where both signs stand it
 * is the last of them, where one stands more than once it is the other, and before one or two figures, or more than
 * three, it is itself. Where nothing tells it is the point.
 */
export function guessDecimal(cells: Iterable<SheetCell>): SheetReading["decimal"] {
  const votes = { ".": 0, ",": 0 };
  for (const cell of cells) {
    if (cell.typed) continue;
    const digits = textInCell(cell).replace(/[^\d.,]/g, "");
    const [point, comma] = [digits.lastIndexOf("."), digits.lastIndexOf(",")];
    if (point >= 0 && comma >= 0) votes[point > comma ? "." : ","]++;
    else if (point >= 0 || comma >= 0) {
      const sign = point >= 0 ? "." : ",";
      const other = sign === "." ? "," : ".";
      const parts = digits.split(sign);
      if (parts.length > 2) votes[other]++;
      else if (parts[1]!.length !== 3 || !/^[1-9]\d{0,2}$/.test(parts[0]!)) votes[sign]++;
    }
  }
  return votes[","] > votes["."] ? "," : ".";
}

/** Whether dates among these read in two ways, so that the guess ought to be looked at: the first that does. */
export function doubtfulDate(cells: Iterable<SheetCell>): string | null {
  for (const cell of cells) {
    const text = textInCell(cell);
    const [a, b] = [dateInCell(text, "day"), dateInCell(text, "month")];
    const both = FIGURES.exec(text);
    if (a !== b && both && Number(both[1]) <= 12 && Number(both[2]) <= 12) return text;
  }
  return null;
}
