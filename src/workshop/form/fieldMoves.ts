import { findField, type Field } from "@/core/form";
import type { Edit } from "@/core/route";

interface Position {
  field: Field;
  parent: Field | null;
  /** Those it stands among. */
  beside: readonly Field[];
  index: number;
  grand: Field | null;
}
function positionOf(fields: readonly Field[], id: string): Position | null {
  const found = findField(fields, id);
  if (!found) return null;
  const parent = found.parents.at(-1) ?? null;
  const beside = parent?.fields ?? fields;
  return {
    field: found.field,
    parent,
    beside,
    index: beside.findIndex((f) => f.id === id),
    grand: found.parents.at(-2) ?? null,
  };
}

/** Where a row goes: in which group, and behind which row. */
export interface FieldPlace {
  parent: string | null;
  after: string | null;
}
const move = (id: string, place: FieldPlace): Edit => ({ op: "field.move", id, ...place });

/** One place up or down among those it stands with. */
export function upOrDown(fields: readonly Field[], id: string, by: -1 | 1): Edit | null {
  const at = positionOf(fields, id);
  if (!at || at.index + by < 0 || at.index + by >= at.beside.length) return null;
  const neighbour = by < 0 ? at.beside[at.index - 2] : at.beside[at.index + 1];
  return move(id, { parent: at.parent?.id ?? null, after: neighbour?.id ?? null });
}

/** Into the group above, behind what stands there. */
export function nested(fields: readonly Field[], id: string): Edit | null {
  const at = positionOf(fields, id);
  const above = at?.beside[at.index - 1];
  if (!at || !above?.fields || at.field.kind === "page") return null;
  return move(id, { parent: above.id, after: above.fields.at(-1)?.id ?? null });
}

/** Out of its group, behind it. */
export function unnested(fields: readonly Field[], id: string): Edit | null {
  const at = positionOf(fields, id);
  return at?.parent ? move(id, { parent: at.grand?.id ?? null, after: at.parent.id }) : null;
}

/** The place right below a row: inside it where it is an open, empty group, else behind it. */
export function placeBelow(fields: readonly Field[], id: string, folded: boolean): FieldPlace {
  const at = positionOf(fields, id);
  if (at?.field.fields?.length === 0 && !folded) return { parent: id, after: null };
  return { parent: at?.parent?.id ?? null, after: id };
}

/** The heading of the sheet, as what a row can be let go on. */
export const TOP = "top";

/** Where a row goes that is let go on another: first in an open group, else below it; null where it cannot. */
export function droppedOn(
  fields: readonly Field[],
  id: string,
  on: string,
  folded: boolean,
): { place: FieldPlace; words: string } | null {
  if (on === TOP) return { place: { parent: null, after: null }, words: "first" };
  const [moving, target] = [findField(fields, id), findField(fields, on)];
  if (!moving || !target || on === id || target.parents.some((p) => p.id === id)) return null;
  const { field, parents } = target;
  const into = field.fields !== undefined && !folded;
  const parent = into ? field : (parents.at(-1) ?? null);
  // A page stands in nothing, and line items hold columns only.
  if (moving.field.kind === "page" && parent !== null) return null;
  const inLines = [...parents, ...(into ? [field] : [])].some((p) => p.kind === "lines");
  if (inLines && moving.field.fields !== undefined) return null;
  return into
    ? { place: { parent: on, after: null }, words: `into ${field.name}` }
    : { place: { parent: parent?.id ?? null, after: on }, words: `below ${field.name}` };
}
export const movedTo = move;

/** Several fields behind each other, as one edit. */
export function addedAt(place: FieldPlace, added: readonly Field[]): Edit {
  const { parent } = place;
  const edits = added.map((field, i): Edit => {
    const after = i === 0 ? place.after : added[i - 1]!.id;
    return { op: "field.add", parent, after, field };
  });
  return { op: "batch", edits };
}
