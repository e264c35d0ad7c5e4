import { heldBy, listsOf, placesOf, type Edit, type Step } from "@/core/route";
import { isHeading, stepKind } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { placeAfter, stepsOf, type Place } from "./placeAfter";
import type { SheetRow } from "./rows";

export type StepRow = Extract<SheetRow, { kind: "step" }>;
export type ListRow = Extract<SheetRow, { kind: "list" }>;

const moved = (id: string, p: Place): Edit => ({ op: "step.move", id, ...p });
const stepRow = (rows: readonly SheetRow[], id: string | null): StepRow | undefined =>
  rows.find((r): r is StepRow => r.kind === "step" && r.id === id);

/** Lists that steps can stand in; where an answer leads back to who asked, nothing follows. */
const openLists = (s: Step) => listsOf(s, KINDS).filter((l) => !l.back);

/**
 * One place up or down, as it reads: within its list; past the end of that into the next list of the same step, or out
 * of the step.
 */
export function upOrDown(
  rows: readonly SheetRow[],
  route: readonly Step[],
  row: StepRow,
  by: -1 | 1,
): Edit | null {
  const list = stepsOf(route, row.ref);
  if (!list) return null;
  if (row.index + by >= 0 && row.index + by < list.length) {
    const neighbour = by < 0 ? list[row.index - 2] : list[row.index + 1];
    return moved(row.id, { to: row.ref, after: neighbour?.id ?? null });
  }
  const owner = stepRow(rows, row.ref.owner);
  if (!owner) return null;
  const lists = openLists(owner.step);
  const next = lists[lists.findIndex((l) => l.id === row.ref.list) + by];
  if (next) {
    const after = by < 0 ? (next.steps.at(-1)?.id ?? null) : null;
    return moved(row.id, { to: { owner: owner.id, list: next.id }, after });
  }
  if (by > 0) return moved(row.id, { to: owner.ref, after: owner.id });
  const before = stepsOf(route, owner.ref)?.[owner.index - 1];
  return moved(row.id, { to: owner.ref, after: before?.id ?? null });
}

/** The lists of the step above that a row can go into, with their names. */
export function listsAbove(
  route: readonly Step[],
  row: StepRow,
): { list: string; name: string; into: Place }[] {
  const above = stepsOf(route, row.ref)?.[row.index - 1];
  const lists = above && stepKind(KINDS, above).lists;
  if (!above || !lists) return [];
  const called = (name: string) => (isHeading(KINDS, above) ? `“${above.name}”` : `“${name}”`);
  const names = new Map(heldBy(above, lists).map((h) => [h.id, `${lists.one} ${called(lists.name(h))}`]));
  return openLists(above).map((l) => ({
    list: l.id,
    name: names.get(l.id) ?? l.id,
    into: { to: { owner: above.id, list: l.id }, after: l.steps.at(-1)?.id ?? null },
  }));
}

/** Into a list of the step above, the last of them where none is said, behind what stands there. */
export function nested(route: readonly Step[], row: StepRow, list?: string): Edit | null {
  const lists = listsAbove(route, row);
  const into = list === undefined ? lists.at(-1) : lists.find((l) => l.list === list);
  return into ? moved(row.id, into.into) : null;
}

/** Out of its list, behind the step that holds it. */
export function unnested(rows: readonly SheetRow[], row: StepRow): Edit | null {
  const owner = stepRow(rows, row.ref.owner);
  return owner ? moved(row.id, { to: owner.ref, after: owner.id }) : null;
}

/** An answer, way or branch one place up or down among those of its step. */
export function listUpOrDown(row: ListRow, by: -1 | 1): Edit | null {
  const lists = listsOf(row.owner, KINDS);
  if (row.index + by < 0 || row.index + by >= lists.length) return null;
  const after = by < 0 ? lists[row.index - 2] : lists[row.index + 1];
  return { op: "list.move", step: row.owner.id, list: row.list, after: after?.id ?? null };
}

/** Dropped on another row: right below it; null on itself, within itself, and where nothing can stand. */
export function dropped(row: StepRow, on: SheetRow): Edit | null {
  if (on.id === row.id) return null;
  const holder = on.kind === "list" ? on.owner.id : on.id;
  if (placesOf({ route: [row.step] }, KINDS).has(holder)) return null;
  if (on.kind === "list" && !openLists(on.owner).some((l) => l.id === on.list)) return null;
  return moved(row.id, placeAfter(on));
}

/** The same place in words. */
export function dropWords(row: StepRow, on: SheetRow): string | null {
  if (!dropped(row, on)) return null;
  switch (on.kind) {
    case "start":
      return "first";
    case "list":
      return `under ${on.number}`;
    case "step":
      if (on.under) return on.under.folded ? `after ${on.step.name}` : `first under ${on.step.name}`;
      return `after ${on.number} ${on.step.name}`;
  }
}
