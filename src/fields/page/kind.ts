import { TEXT } from "@/core/expression";
import type { FieldBehaviour } from "@/core/kinds";

/** Fields on a page of their own; it has no value. */
export const page: FieldBehaviour = {
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
