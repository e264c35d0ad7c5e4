import { followColumns, registersKnown, type ProcessDefinition } from "@/core/route";
import type { Registers } from "@/core/form";
import type { ReleaseRow } from "@/db";
import { KINDS } from "@/kinds";

/** By the release as it was read, and the registers as they are. */
const kept = new WeakMap<ProcessDefinition, WeakMap<Registers, ProcessDefinition>>();

/**
 * A release with its formulas reading columns by what they are called now. It is found anew from what was released and
 * the names that were kept with it, so that whoever holds these registers reads it by their names, and nobody by names
 * of a moment ago. That all of it can be followed was seen to when something was called otherwise (`followChange`).
 */
export function definitionNow(
  { released, names }: Pick<ReleaseRow, "released" | "names">,
  registers: Registers,
): ProcessDefinition {
  let by = kept.get(released);
  if (!by) kept.set(released, (by = new WeakMap()));
  let now = by.get(registers);
  if (!now) by.set(registers, (now = follow(released, names, registers)));
  return now;
}

/** Only names are followed: what came along since, and would be read in another's place, was not let in. */
function follow(released: ProcessDefinition, names: ReleaseRow["names"], registers: Registers) {
  const known = registersKnown(registers, names);
  const renamed = Object.values(known).some((s) =>
    s.columns.some((c) => registers[s.key]!.columns.every((x) => x.name !== c.name || x.id !== c.id)),
  );
  return renamed ? followColumns(released, known, registers, KINDS).definition : released;
}
