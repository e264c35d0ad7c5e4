import { TEXT } from "@/core/expression";
import { plainCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** Figures with what is written between them; an extension at its end. */
const WRITTEN = /^\+?[\d\s()./-]+(?:\s*(?:x|ext\.?)\s*\d{1,6})?$/i;
/** The longest an international number can be (ITU-T E.164, 6); the shortest are those of an emergency. */
const [LEAST, MOST] = [3, 15];

/** A telephone number, kept as it is written. */
export const telephone: FieldBehaviour = {
  type: () => TEXT,
  value: (_, raw) => (typeof raw === "string" ? raw : null),
  settled: (v) => v,
  mistakes(_, raw) {
    const text = String(raw);
    const figures = text.replace(/\s*(?:x|ext\.?)\s*\d+$/i, "").replace(/\D/g, "").length;
    if (WRITTEN.test(text) && figures >= LEAST && figures <= MOST) return [];
    return [{ code: "not-a-telephone", data: { value: text.slice(0, 60) } }];
  },
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: { words: /\b(tele)?phone\b|\bmobile( number)?$|\btel$/i, rank: 0 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: (_, cell) => plainCell(cell),
};
