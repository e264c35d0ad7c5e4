import { DATETIME, dateTimeFrom, momentOnTheClock } from "@/core/expression";
import { momentInCell, textInCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/**
 * A date and a time of day, to the minute, by whatever clock hangs where it is meant: it stands in no zone, and beside a
 * moment that stands in one it counts as being there (docs/formulas.md).
 */
export const dateAndTime: FieldBehaviour = {
  type: () => DATETIME,
  value: (_, raw) => (typeof raw === "string" && TO_THE_MINUTE.test(raw) ? dateTimeFrom(`${raw}:00`) : null),
  settled: momentOnTheClock,
  mistakes: (_, raw, v) => (v === null ? [{ code: "not-a-moment", data: { value: String(raw) } }] : []),
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: { words: /\bdate and time\b/i, rank: -1 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell(_, cell, { reading }) {
    const text = textInCell(cell);
    return { kept: text === "" ? null : (momentInCell(text, reading.dates) ?? text) };
  },
};

/** The database has no year nought. */
const TO_THE_MINUTE = /^(?!0000)\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d$/;
