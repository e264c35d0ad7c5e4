import { TEXT } from "@/core/expression";
import { MAX_TEXT, plainCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** A line of text. */
export const text: FieldBehaviour = {
  type: () => TEXT,
  value: (_, raw) => (typeof raw === "string" ? raw : null),
  settled: (v) => v,
  mistakes(_, raw) {
    if (typeof raw !== "string") return [{ code: "not-a-text", data: { value: String(raw) } }];
    const { length } = raw;
    return length > MAX_TEXT
      ? [{ code: "too-long", data: { value: String(length), limit: String(MAX_TEXT) } }]
      : [];
  },
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: null,
  idOf: null,
  links: null,
  many: null,
  filler: "…",
  cell: (_, cell) => plainCell(cell),
};
