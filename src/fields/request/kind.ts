import { REQUEST } from "@/core/expression";
import { textInCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** A request, by its number. */
export const request: FieldBehaviour = {
  type: () => REQUEST,
  value: (_, raw, facts) => (typeof raw === "string" ? facts.request(raw) : null),
  settled: (v) => v,
  mistakes: (_, raw, v) =>
    v === null ? [{ code: "no-request", data: { value: String(raw).slice(0, 40) } }] : [],
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: null,
  idOf: "request",
  links: null,
  many: null,
  filler: null,
  cell: (_, cell) => ({ kept: textInCell(cell).toUpperCase() || null }),
};
