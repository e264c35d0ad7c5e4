import { NUMBER, toNum } from "@/core/expression";
import { numberCell, numberMistakes, type SheetCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

const asShown = (cell: SheetCell): SheetCell => ({
  ...cell,
  text: cell.hundredths ?? cell.text.replace(/\s*%\s*$/, ""),
});

/**
 * So many in a hundred. Formulas read it as it is written: 12.5 % is 12.5, so that a condition says what people say
 * (`Discount > 10`) and a share of an amount is `Amount * Discount / 100`.
 */
export const percentage: FieldBehaviour = {
  type: () => NUMBER,
  value: (_, raw) => (typeof raw === "string" ? toNum(raw) : null),
  settled: (v) => v,
  mistakes: (f, raw, v) => numberMistakes(f, raw, v, null),
  problems: () => undefined,
  has: { options: null, range: "number", money: false },
  guess: { words: /\bpercent(age)?\b|%/i, rank: 1 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: (_, cell, ctx) => numberCell(asShown(cell), ctx),
};
