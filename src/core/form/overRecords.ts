import { type Names, type Scope, type Type, type Value } from "../expression";
import { flatFields, type Field } from "./field";
import { columnScope, formScope, recordScope, type FormSurrounding } from "./formScope";
import { PEOPLE, peopleScope } from "./people";
import { RowValue } from "./rowValue";

/**
 * In a condition of a field over records bare names are columns; the form's own, of the row it stands in first, are also
 * read through this, because a field is mostly called as the column it is compared with.
 */
export const FORM = "Form";
/** What an entry of that is an entry of, as `Target` names it. No field has such an id. */
const OF_FORM = "@form";
export const FORM_ENTRY = `rows ${OF_FORM}`;

/** The columns of a register, or what may be asked of people, as names. */
export function scopeOfRecords(register: string, around: FormSurrounding): Scope {
  if (register === PEOPLE) return peopleScope();
  const shape = Object.hasOwn(around.registers, register) ? around.registers[register] : undefined;
  return shape ? recordScope(shape, around) : {};
}

/** The type of the form's own names. @param lines the line items in whose row the condition stands */
export const formType = (
  fields: readonly Field[],
  lines: Field | undefined,
  around: FormSurrounding,
): Type => ({
  t: "context",
  fields: { ...formScope(fields, around), ...(lines ? columnScope(lines, around) : {}) },
  rows: OF_FORM,
});

/** What a condition of a field over records reads before the names around it: columns, and the form by its name. */
export const overRecordsScope = (
  register: string,
  fields: readonly Field[],
  lines: Field | undefined,
  around: FormSurrounding,
): Scope => ({ [FORM]: formType(fields, lines, around), ...scopeOfRecords(register, around) });

/** The same as values. @param names those of the form, or of a row of it */
export function formAround(names: Names, fields: readonly Field[], lines: Field | undefined): Names {
  const own = [...flatFields(lines?.fields ?? []), ...flatFields(fields)].map((f) => f.name);
  const form = new RowValue([...new Set(own)], (name): Value => names.get(name) ?? null);
  return { get: (name) => (name === FORM ? form : names.get(name)) };
}
