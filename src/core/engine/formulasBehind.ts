import type { CompiledFormula, CompiledRelease } from "./release";

/**
 * A formula and, with what it reads of steps that work at once, the formulas by which those come to it, each once: what
 * is read of a step by its name was read of the form before.
 */
export function formulasBehind<F extends Pick<CompiledFormula, "steps">>(
  release: Pick<CompiledRelease, "workedBy">,
  f: F,
): (F | CompiledFormula)[] {
  if (f.steps.length === 0) return [f];
  const ids = new Set<string>(f.steps);
  const all: (F | CompiledFormula)[] = [f];
  // What is put in while they are gone through is gone through as well.
  for (const id of ids)
    for (const g of release.workedBy.get(id) ?? []) {
      all.push(g);
      for (const further of g.steps) ids.add(further);
    }
  return all;
}
