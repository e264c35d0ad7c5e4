import type { Registers } from "../form";
import { stepKind, type Kinds } from "../kinds";
import type { StepPlace } from "../route";
import type { Problem } from "./problem";
import type { RecordRead } from "./recordReads";

/**
 * Records that are used whole have all their columns fetched, whichever are needed: whoever designs a search says so, or
 * names the columns.
 */
export function wholeReads(
  reads: readonly RecordRead[],
  places: ReadonlyMap<string, StepPlace>,
  registers: Registers,
  kinds: Kinds,
  out: Problem[],
) {
  const whole = new Set(reads.filter((r) => r.whole).map((r) => r.register));
  if (whole.size === 0) return;
  for (const { step } of places.values()) {
    const searched = stepKind(kinds, step).searches?.(step);
    const edit = searched?.all;
    if (!searched || !edit || !whole.has(searched.register)) continue;
    const { name } = registers[searched.register]!;
    out.push({
      severity: "warning",
      code: "whole-records",
      where: { kind: "step", id: step.id, place: "columns" },
      message: `Something here uses records of ${name} whole, so that all their columns are fetched. Say that this is meant, or have it name the columns it needs.`,
      mend: { label: "Fetch all columns", edit },
    });
  }
}
