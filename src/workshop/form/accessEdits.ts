import { findField, type Access } from "@/core/form";
import { accessAt, type Edit, type ProcessDefinition } from "@/core/route";

/** A field at a step. */
export interface AccessCell {
  field: string;
  step: string;
}

/** One edit that says what may be done with fields at steps; null has each go by its group or the rule again. */
export const accessEdit = (cells: readonly AccessCell[], access: Access | null): Edit => ({
  op: "batch",
  edits: cells.map(({ field, step }): Edit => ({ op: "access.set", step, field, access })),
});

/**
 * Why a field is less at a step than what was said of it there; null where it is that.
 * @param definition with what was said
 */
export function heldBack(
  definition: ProcessDefinition,
  { field, step }: AccessCell,
): { by: "group"; name: string } | { by: "left out" } | null {
  const own = definition.access[step]?.[field];
  const now = accessAt(definition, step)(field);
  if (own === undefined || own === now) return null;
  const hides = findField(definition.fields, field)?.parents.find(
    (p) => accessAt(definition, step)(p.id) === "hide",
  );
  return hides ? { by: "group", name: hides.name } : { by: "left out" };
}
