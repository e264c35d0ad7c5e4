import { recordScope, type RuleOccasion } from "../form";
import { checkFormula } from "../expression";
import { startKind, stepKind } from "../kinds";
import { BEFORE, type OfRecords } from "../records";
import type { ProcessDefinition, StepPlace, Surrounding } from "../route";
import { place, type Problem } from "./problem";

/**
 * Says where a step writes what the process starts by: it may be meant, and ends only where the start's condition does.
 * Where a condition must newly hold, only writing a column it reads can bring that about.
 */
export function recordCircles(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  around: Surrounding,
  out: Problem[],
) {
  const starts = d.starts.flatMap((s) => startKind(around.kinds, s).ofRecords?.(s) ?? []);
  if (starts.length === 0) return;
  for (const { step } of places.values()) {
    const writes = stepKind(around.kinds, step).writes?.(step);
    const shape = writes && around.registers[writes.register];
    if (!writes || !shape) continue;
    for (const of of starts) {
      if (of.register !== writes.register || !writes.does.some((did) => takes(of.on, did))) continue;
      const wakes = wakesBy(of, writes.does, writes.columns, around);
      if (wakes === null) continue;
      const name = (id: string) => shape.columns.find((c) => c.id === id)?.name ?? id;
      const what = wakes.length > 0 ? wakes.map((id) => `${shape.name}.${name(id)}`).join(", ") : shape.name;
      out.push({
        severity: "warning",
        code: "record-circle",
        where: place("step", step.id),
        message: `This writes ${what}, which starts “${d.name}” once more. Make sure that it ends, or write quietly; of one record it is stopped the fourth time.`,
      });
    }
  }
}

const takes = (on: OfRecords["on"], did: RuleOccasion): boolean =>
  on === did || (on === "added or changed" && did !== "removed");

/** Ids of the written columns that bring the start about; none where any writing does; null where none of it can. */
function wakesBy(
  of: OfRecords,
  does: readonly RuleOccasion[],
  columns: readonly string[],
  { registers, kinds }: Surrounding,
): readonly string[] | null {
  // What is added or removed is not told by columns that change.
  if (does.some((did) => did !== "changed" && takes(of.on, did))) return [];
  const watched = of.columns === null ? columns : columns.filter((c) => of.columns!.includes(c));
  if (watched.length === 0) return null;
  if (!of.newly || of.when === null) return watched;
  const shape = registers[of.register]!;
  const { reads } = checkFormula(of.when, {
    ...recordScope(shape, { registers, kinds }),
    [BEFORE]: { t: "any" },
  });
  const read = new Set(reads.references.map((r) => r.name));
  const known = watched.filter((id) => read.has(shape.columns.find((c) => c.id === id)?.name ?? ""));
  return known.length > 0 ? known : null;
}
