import { TEXT } from "@/core/expression";
import type { FieldBehaviour } from "@/core/kinds";

/** Fields under a heading; it has no value. */
export const section: FieldBehaviour = {
  type: () => TEXT,
  value: () => null,
  settled: (v) => v,
  mistakes: () => [],
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: null,
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: null,
};
