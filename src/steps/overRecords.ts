import type { CompiledFormula, Turn } from "@/core/engine";
import type { Names, Value } from "@/core/expression";
import type { RegisterShape } from "@/core/form";

/** Whether a column that a formula reads by its name alone is hidden from somebody. */
const hidesColumns = (register: string, { reads }: CompiledFormula, turn: Turn): boolean =>
  reads.references.some(
    (r) => r.target.t === "name" && turn.facts.hidesOfRecords(`record ${register}.${r.name}`),
  );

/** Why a formula over records cannot be worked out; of fields and columns hidden from somebody it tells nothing. */
export function whyUntold(
  turn: Turn,
  register: string,
  text: string,
  f: CompiledFormula,
  why: string,
): string {
  const hidden = turn.hides(f) || hidesColumns(register, f, turn);
  return hidden ? `“${text}” cannot be worked out.` : `“${text}” cannot be worked out: ${why}`;
}

/** A record's columns by name, before the names of the route. */
export const columnsBefore = (
  shape: RegisterShape,
  column: (name: string) => Value,
  outer: Names,
): Names => ({
  get: (name) => (shape.columns.some((c) => c.name === name) ? column(name) : outer.get(name)),
});
