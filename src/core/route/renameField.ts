import { nameMistake } from "../expression";
import { findField, flatFields, isGroup, REQUEST_SCOPE, type Field } from "../form";
import type { ProcessDefinition } from "./definition";
import { locateField, mapField } from "./fieldTree";
import type { Surrounding } from "./surrounding";
import { refuse } from "./refuse";
import { renameInFormulas } from "./renameInFormulas";

/** A name must be readable in formulas and the only one among the names it stands with. */
export function checkName(d: ProcessDefinition, name: string, id: string, parent: string | null) {
  const why = nameMistake(name);
  if (why) refuse({ code: "bad-name", data: { name, why } });
  const holder = parent
    ? (findField(d.fields, parent) ?? refuse({ code: "unknown-field", data: { id: parent } }))
    : null;
  const lines = holder ? [...holder.parents, holder.field].find((f) => f.kind === "lines") : null;
  const beside = lines ? flatFields(lines.fields ?? []) : namedFields(d.fields);
  const taken = beside.some((f) => f.id !== id && f.name.toLowerCase() === name.toLowerCase());
  if (taken || (!lines && Object.hasOwn(REQUEST_SCOPE, name))) refuse({ code: "name-taken", data: { name } });
}

/** Fields with names of their own at the top: everything but columns. */
const namedFields = (fields: readonly Field[]): Field[] =>
  fields.flatMap((f) => (f.kind === "lines" ? [f] : [f, ...namedFields(f.fields ?? [])]));

/** The definition with a field renamed and every formula that reads it rewritten. */
export function renameField(
  d: ProcessDefinition,
  id: string,
  name: string,
  around: Surrounding,
): ProcessDefinition {
  const { field, parent } = locateField(d.fields, id);
  checkName(d, name, id, parent);
  const renamed = { ...d, fields: mapField(d.fields, id, (f) => ({ ...f, name })) };
  // Pages and sections have no values to read.
  if (isGroup(field)) return renamed;
  const lines = findField(d.fields, id)!.parents.find((p) => p.kind === "lines");
  return renameInFormulas(d, renamed, around, [
    { id: `field ${id}`, entryOf: lines ? `rows ${lines.id}` : null, from: field.name, to: name },
  ]);
}
