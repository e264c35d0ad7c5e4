import { otherMeaning } from "../expression";
import type { ProcessDefinition } from "./definition";
import { formulaPlaces, spaced, type FormulaPlace } from "./formulaPlaces";
import type { Surrounding } from "./surrounding";
import { refuse } from "./refuse";

const keyOf = (p: FormulaPlace) => `${p.owner.kind} ${p.owner.id}|${p.place}|${p.formula}`;

/**
 * Holds that no formula comes to mean something else because fields come, go or change places: one that stands both
 * before and after reads the same things, or is plainly a mistake. A column that is added under the name of a field would
 * else be read in its place inside every filter, and a column that is taken away leave its name to the field.
 * @param names those that come to lead somewhere else
 * @param how what was done, and to which field where a formula reads this name
 * @param moved the id of a field whose own formulas change places with it
 * @throws RefusedEdit naming the first formula that would mean something else
 */
export function keepMeaning(
  d: ProcessDefinition,
  next: ProcessDefinition,
  around: Surrounding,
  names: readonly string[],
  how: { deed: "added" | "moved" | "taken away"; name(reads: string): string; moved?: string },
): void {
  const concerned = (p: FormulaPlace): boolean =>
    !p.ofRecord && (p.owner.id === how.moved || names.some((name) => spaced(p.formula).includes(name)));
  const before = formulaPlaces(d, around).filter(concerned);
  if (before.length === 0) return;
  const after = new Map(formulaPlaces(next, around).map((p) => [keyOf(p), p]));
  for (const p of before) {
    const then = after.get(keyOf(p));
    const other = then && otherMeaning(p.formula, p, then);
    if (!other) continue;
    const { says, formula } = p;
    refuse({
      code: "other-meaning",
      data: {
        deed: how.deed,
        name: how.name(other.name),
        reads: other.name,
        says,
        formula,
        from: other.from,
        to: other.to,
      },
    });
  }
}
