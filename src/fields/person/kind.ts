import { PERSON } from "@/core/expression";
import { namedCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** Somebody who works here. */
export const person: FieldBehaviour = {
  type: () => PERSON,
  value: (_, raw, facts) => (typeof raw === "string" && facts.isPerson(raw) ? facts.person(raw) : null),
  settled: (v) => v,
  mistakes: (_, raw, v) => (v === null ? [{ code: "no-person", data: { value: String(raw) } }] : []),
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: { words: /\b(requester|manager|person|contact person|colleague|responsible)\b/i, rank: 7 },
  idOf: "person",
  links: null,
  many: null,
  filler: null,
  cell: (_, cell, ctx) => namedCell(cell, ctx),
};
