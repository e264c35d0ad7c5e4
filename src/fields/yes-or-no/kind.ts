import { YESNO } from "@/core/expression";
import { yesOrNoCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** A question answered with yes or no. */
export const yesOrNo: FieldBehaviour = {
  type: () => YESNO,
  value: (_, raw) => (typeof raw === "boolean" ? raw : null),
  settled: (v) => v,
  mistakes: (_, raw) =>
    typeof raw === "boolean" ? [] : [{ code: "not-yes-or-no", data: { value: String(raw) } }],
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: { words: /^(is|has|are|needs?)\b|\b(needed|urgent|done|yes no|confirmed|agreed)$|\?$/i, rank: 5 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: (_, cell) => yesOrNoCell(cell),
};
