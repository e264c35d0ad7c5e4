import { TIME, timeOfDay, timeFrom } from "@/core/expression";
import { textInCell, timeInCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** A time of day by whatever clock hangs where it is meant, to the minute. */
export const time: FieldBehaviour = {
  type: () => TIME,
  value: (_, raw) => (typeof raw === "string" && TO_THE_MINUTE.test(raw) ? timeFrom(`${raw}:00`) : null),
  settled: timeOfDay,
  mistakes: (_, raw, v) => (v === null ? [{ code: "not-a-time", data: { value: String(raw) } }] : []),
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: { words: /\btime$/i, rank: 0 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell(_, cell) {
    const text = textInCell(cell);
    return { kept: text === "" ? null : (timeInCell(text) ?? text) };
  },
};

const TO_THE_MINUTE = /^([01]\d|2[0-3]):[0-5]\d$/;
