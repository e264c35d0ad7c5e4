import { NUMBER, toNum } from "@/core/expression";
import { numberCell, numberMistakes } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** A decimal number, kept as text so that it never drifts. */
export const number: FieldBehaviour = {
  type: () => NUMBER,
  value: (_, raw) => (typeof raw === "string" ? toNum(raw) : null),
  settled: (v) => v,
  mistakes: (f, raw, v) => numberMistakes(f, raw, v, null),
  problems: () => undefined,
  has: { options: null, range: "number", money: false },
  guess: { words: /\b(number of|count|quantity|pieces|how many|age|size)\b/i, rank: 3 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: (_, cell, ctx) => numberCell(cell, ctx),
};
