import { renameInFormula, rewriteNames, type Renaming } from "../expression";
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
  // Rows come into a formula by the name of their table only: one that names nothing of all this is left alone unread.
  const words = whats.flatMap((what) => {
    const lines = /^rows (.*)$/s.exec(what.entryOf ?? "")?.[1];
    const table = lines === undefined ? undefined : findField(d.fields, lines)?.field.name;
    return [what.from, what.to, ...(table === undefined ? [] : [table])];
  });
  const concerned = (p: FormulaPlace): boolean =>
    !p.ofRecord && words.some((word) => spaced(p.formula).includes(word));
  // What one formula means may hang on another that is rewritten with it: all of them first, then each is looked at.
  const names = formulaPlaces(renamed, around);
  const first = before.map((p, i) => {
    const r = concerned(p) ? rewriteNames(p.formula, p, names[i]!, whats) : { text: p.formula };
    return "text" in r ? r.text : p.formula;
  });
  const after = formulaPlaces(written(renamed, around, first), around);
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
  return written(renamed, around, texts);
}

/** The definition with other texts for its formulas, in reading order. */
function written(d: ProcessDefinition, around: Surrounding, texts: readonly string[]): ProcessDefinition {
  let at = 0;
  return mapFormulas(d, around, { formula: () => texts[at++]! });
}
