import { recordOfAny } from "@/core/expression";
import { namedCell, pointedAtBy, pointerTo } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** Registers one field may point at: a type is made of all of them, and each is searched where one is picked. */
const MOST_REGISTERS = 12;

/** A record of any of several registers. */
export const lookUpInSeveral: FieldBehaviour = {
  type: (f, record) =>
    recordOfAny((f.registers ?? []).map((register) => ({ register, type: record(register) }))),
  value(f, raw, facts) {
    const to = typeof raw === "string" ? pointedAtBy(f, raw) : null;
    return to && facts.isRecord(to.register, to.id) ? facts.record(to.register, to.id) : null;
  },
  settled: (v) => v,
  mistakes: (_, raw, v) => (v === null ? [{ code: "no-record", data: { value: String(raw) } }] : []),
  problems(f, { registers, say }) {
    const keys = f.registers ?? [];
    if (keys.length === 0)
      say("error", "no-register", `Say which registers "${f.name}" looks in.`, "registers");
    if (keys.length > MOST_REGISTERS)
      say(
        "error",
        "too-many-registers",
        `"${f.name}" looks in ${keys.length} registers; at most ${MOST_REGISTERS} will do.`,
        "registers",
      );
    for (const key of keys)
      if (!registers[key]) say("error", "no-register", `There is no register "${key}".`, "registers");
  },
  has: { options: null, range: null, money: false },
  guess: null,
  idOf: "record",
  links: {
    registers: (f) => f.registers ?? [],
    target: pointedAtBy,
    pointer: pointerTo,
    at: (registers) => (registers.length === 0 ? {} : { registers: [...registers] }),
  },
  many: null,
  filler: null,
  cell: (_, cell, ctx) => namedCell(cell, ctx),
};
