import { NUMBER, toNum } from "@/core/expression";
import { numberCell, numberMistakes } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** Made up for the tests: an angle in whole degrees. */
export const angle: FieldBehaviour = {
  type: () => NUMBER,
  value: (_, raw) => (typeof raw === "string" ? toNum(raw) : null),
  settled: (v) => v,
  mistakes: (f, raw, v) => numberMistakes({ ...f, min: "0", max: "359" }, raw, v, 0),
  problems(f, { say }) {
    if (f.min) say("error", "no-least", "An angle has no least.", "min");
  },
  has: { options: null, range: null, money: false },
  guess: { words: /\bangle\b/i, rank: 0 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: (_, cell, ctx) => numberCell(cell, ctx),
};
