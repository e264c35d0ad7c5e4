import { renameInFormula, type Renaming } from "../expression";
import { findField } from "../form";
import type { ProcessDefinition } from "./definition";
import { formulaPlaces, mapFormulas, spaced, type FormulaPlace } from "./formulaPlaces";
import type { Surrounding } from "./surrounding";
import { refuse } from "./refuse";

/**
 * The definition with something renamed in every formula that reads it, none of them meaning anything else than before.
 * @param all what is renamed, at once
 * @param renamed the definition with the new name where it is declared, its formulas as they were
 * @throws RefusedEdit naming the first formula whose meaning would change, or cannot be told
 */
export function renameInFormulas(
  d: ProcessDefinition,
  renamed: ProcessDefinition,
  around: Surrounding,
  all: readonly Renaming[],
): ProcessDefinition {
  const whats = all.filter((w) => w.from !== w.to);
  if (whats.length === 0) return renamed;
  const before = formulaPlaces(d, around);
  const after = formulaPlaces(renamed, around);
  // Rows come into a formula by the name of their table only: one that names nothing of all this is left alone unread.
  const words = whats.flatMap((what) => {
    const table = what.column === null ? undefined : findField(d.fields, what.column)?.field.name;
    return [what.from, what.to, ...(table === undefined ? [] : [table])];
  });
  const concerned = (p: FormulaPlace): boolean =>
    !p.ofRecord && words.some((word) => spaced(p.formula).includes(word));
  const texts = before.map((p, i) => {
    if (!concerned(p)) return p.formula;
    const r = renameInFormula(p.formula, p, after[i]!, whats);
    if ("text" in r) return r.text;
    const { from, to, why } = r.unclear;
    return refuse({
      code: "rename-unclear",
      data: { name: whats[0]!.from, says: p.says, formula: p.formula, from, to, why },
    });
  });
  let at = 0;
  return mapFormulas(renamed, around, { formula: () => texts[at++]! });
}
