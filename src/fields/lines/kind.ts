import { TEXT } from "@/core/expression";
import type { FieldBehaviour } from "@/core/kinds";

/** A table of repeated rows; the form itself makes its value, row by row. */
export const lines: FieldBehaviour = {
  type: () => TEXT,
  value: () => null,
  settled: (v) => v,
  mistakes: () => [],
  problems: (f, { say }) => {
    if (!f.fields?.length) say("error", "no-columns", `"${f.name}" has no columns yet.`);
  },
  has: { options: null, range: "rows", money: false },
  guess: null,
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: null,
};
