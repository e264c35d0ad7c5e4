import { NUMBER, toNum } from "@/core/expression";
import { numberCell, numberMistakes } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** A number without a part of one: people, copies, days. */
export const wholeNumber: FieldBehaviour = {
  type: () => NUMBER,
  value: (_, raw) => (typeof raw === "string" ? toNum(raw) : null),
  settled: (v) => v,
  mistakes: (f, raw, v) => numberMistakes(f, raw, v, 0),
  problems: () => undefined,
  has: { options: null, range: "number", money: false },
  guess: { words: /\b(how many|number of|count of)\b/i, rank: 2 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: (_, cell, ctx) => numberCell(cell, ctx),
};
