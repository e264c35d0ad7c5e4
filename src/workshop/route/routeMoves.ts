import { listsOf, type Edit, type Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { placeAfter, stepsOf, type Place } from "./placeAfter";
import type { SheetRow } from "./rows";

export type StepRow = Extract<SheetRow, { kind: "step" }>;

const moved = (id: string, p: Place): Edit => ({ op: "step.move", id, ...p });

/** One place up or down its list. */
export function upOrDown(route: readonly Step[], row: StepRow, by: -1 | 1): Edit | null {
  const list = stepsOf(route, row.ref);
  if (!list || row.index + by < 0 || row.index + by >= list.length) return null;
  const neighbour = by < 0 ? list[row.index - 2] : list[row.index + 1];
  return moved(row.id, { to: row.ref, after: neighbour?.id ?? null });
}

/** Into the last list of the step above, behind what stands there. */
export function nested(route: readonly Step[], row: StepRow): Edit | null {
  const above = stepsOf(route, row.ref)?.[row.index - 1];
  const into = above && listsOf(above, KINDS).at(-1);
  if (!above || !into) return null;
  return moved(row.id, { to: { owner: above.id, list: into.id }, after: into.steps.at(-1)?.id ?? null });
}

/** Out of its list, behind the step that holds it. */
export function unnested(rows: readonly SheetRow[], row: StepRow): Edit | null {
  const owner = rows.find((r): r is StepRow => r.kind === "step" && r.id === row.ref.owner);
  return owner ? moved(row.id, { to: owner.ref, after: owner.id }) : null;
}

/** Dropped on another row: right below it. */
export const dropped = (row: StepRow, on: SheetRow): Edit | null =>
  on.id === row.id ? null : moved(row.id, placeAfter(on));
