import { TEXT } from "@/core/expression";
import { MAX_LONG_TEXT, plainCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** Text of several lines. */
export const longText: FieldBehaviour = {
  type: () => TEXT,
  value: (_, raw) => (typeof raw === "string" ? raw : null),
  settled: (v) => v,
  mistakes(_, raw) {
    if (typeof raw !== "string") return [{ code: "not-a-text", data: { value: String(raw) } }];
    const { length } = raw;
    const limit = String(MAX_LONG_TEXT);
    return length > MAX_LONG_TEXT ? [{ code: "too-long", data: { value: String(length), limit } }] : [];
  },
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: {
    words: /\b(description|reason|remarks?|notes?|comments?|purpose|why|details|instructions)\b/i,
    rank: 4,
  },
  idOf: null,
  links: null,
  many: null,
  filler: "…",
  cell: (_, cell) => plainCell(cell),
};
