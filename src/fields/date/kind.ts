import { DATE, dateFrom, isDate } from "@/core/expression";
import { dateCell, type ValueMistake } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** A calendar date. */
export const date: FieldBehaviour = {
  type: () => DATE,
  value: (_, raw) => (typeof raw === "string" ? dateFrom(raw) : null),
  settled: (v) => v,
  mistakes(f, raw, v) {
    const text = String(raw);
    if (!isDate(v)) return [{ code: "not-a-date", data: { value: text } }];
    const out: ValueMistake[] = [];
    if (f.min && text < f.min) out.push({ code: "too-early", data: { value: text, limit: f.min } });
    if (f.max && text > f.max) out.push({ code: "too-late", data: { value: text, limit: f.max } });
    return out;
  },
  problems: () => undefined,
  has: { options: null, range: "date", money: false },
  guess: { words: /\b(date|day|from|until|starts?|ends?|when|deadline)\b/i, rank: 1 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: (_, cell, ctx) => dateCell(cell, ctx),
};
