import { findField, holdsFields, type Field } from "../form";
import { insertBehind, neighbourOf } from "./neighbours";
import { refuse } from "./refuse";

/** A field with what it stands in and behind. */
export interface FieldPosition {
  field: Field;
  parent: string | null;
  after: string | null;
}

export function locateField(fields: readonly Field[], id: string): FieldPosition {
  const found = findField(fields, id) ?? refuse({ code: "unknown-field", data: { id } });
  const parent = found.parents.at(-1);
  const beside = parent?.fields ?? fields;
  const at = beside.findIndex((f) => f.id === id);
  return { field: found.field, parent: parent?.id ?? null, after: neighbourOf(beside, at) };
}

export const mapField = (fields: readonly Field[], id: string, change: (f: Field) => Field): Field[] =>
  fields.map((f) => {
    if (f.id === id) return change(f);
    return f.fields ? { ...f, fields: mapField(f.fields, id, change) } : f;
  });

export const removeField = (fields: readonly Field[], id: string): Field[] =>
  fields.filter((f) => f.id !== id).map((f) => (f.fields ? { ...f, fields: removeField(f.fields, id) } : f));

export function insertField(
  fields: readonly Field[],
  parent: string | null,
  after: string | null,
  field: Field,
): Field[] {
  if (parent === null) return insertBehind(fields, after, field);
  const holder = findField(fields, parent) ?? refuse({ code: "unknown-field", data: { id: parent } });
  if (!holdsFields(holder.field.kind)) refuse({ code: "holds-none", data: { name: holder.field.name } });
  return mapField(fields, parent, (f) => ({ ...f, fields: insertBehind(f.fields ?? [], after, field) }));
}

/** A field that holds others has a list of them, if an empty one; another kind has none that is empty. */
export function withListOfKind(f: Field): Field {
  if (holdsFields(f.kind)) return f.fields ? f : { ...f, fields: [] };
  const { fields, ...rest } = f;
  return fields?.length === 0 ? rest : f;
}
