import { nameMistake, renameInFormula } from "../expression";
import { findField, flatFields, isGroup, REQUEST_SCOPE, type Field } from "../form";
import type { ProcessDefinition } from "./definition";
import { locateField, mapField } from "./fieldTree";
import { mapFormulas, type Surrounding } from "./formulaPlaces";
import { refuse } from "./refuse";

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
  const lines = findField(d.fields, id)!.parents.find((p) => p.kind === "lines");
  const columns = (rowsOf: string) => flatFields(findField(d.fields, rowsOf)?.field.fields ?? []);
  const renamed = (from: ProcessDefinition): ProcessDefinition => ({
    ...from,
    fields: mapField(from.fields, id, (f) => ({ ...f, name })),
  });
  // Pages and sections have no values to read.
  if (isGroup(field)) return renamed(d);
  return renamed(
    mapFormulas(d, around, {
      formula: ({ formula, scope, rowsOf, ofRecord }) => {
        if (ofRecord) return formula;
        if (!lines) {
          // A column of the same name comes first.
          const shadowed = rowsOf !== null && columns(rowsOf).some((c) => c.name === field.name);
          return shadowed ? formula : renameInFormula(formula, scope, [field.name], name);
        }
        // Inside the table itself a column is read by its bare name, everywhere by its path.
        const bare = rowsOf === lines.id ? renameInFormula(formula, scope, [field.name], name) : formula;
        return renameInFormula(bare, scope, [lines.name, field.name], name);
      },
    }),
  );
}
