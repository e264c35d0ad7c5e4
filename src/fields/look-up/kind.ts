import { linksToOne, namedCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** A record of a register. */
export const lookUp: FieldBehaviour = {
  type: (f, record) => record(f.register ?? ""),
  value: (f, raw, facts) =>
    typeof raw === "string" && f.register && facts.isRecord(f.register, raw)
      ? facts.record(f.register, raw)
      : null,
  settled: (v) => v,
  mistakes: (_, raw, v) => (v === null ? [{ code: "no-record", data: { value: String(raw) } }] : []),
  problems(f, { registers, say }) {
    if (f.register && registers[f.register]) return;
    say(
      "error",
      "no-register",
      f.register ? `There is no register "${f.register}".` : `Say which register "${f.name}" looks in.`,
      "register",
    );
  },
  has: { options: null, range: null, money: false },
  guess: null,
  idOf: "record",
  links: linksToOne,
  many: null,
  filler: null,
  cell: (_, cell, ctx) => namedCell(cell, ctx),
};
