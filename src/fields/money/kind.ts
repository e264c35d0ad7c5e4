import { isNum, NUMBER, roundMoney, toNum } from "@/core/expression";
import { numberCell, numberMistakes } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

const CENTS = 2;
const EURO = /^\s*(?:€|EUR)\s*|\s*(?:€|EUR)\s*$/g;

/** An amount in euro, in whole cents. */
export const money: FieldBehaviour = {
  type: () => NUMBER,
  value: (_, raw) => (typeof raw === "string" ? toNum(raw) : null),
  settled: (v) => (isNum(v) ? roundMoney(v) : v),
  mistakes: (f, raw, v) => numberMistakes(f, raw, v, CENTS),
  problems: () => undefined,
  has: { options: null, range: "number", money: true },
  guess: { words: /\b(price|cost|amount|value|total|fee|budget|eur)\b/i, rank: 2 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  // Sheets often write the currency beside the sum; any other than ours stays, and is refused.
  cell: (_, cell, ctx) => numberCell({ ...cell, text: cell.text.replace(EURO, "") }, ctx),
};
