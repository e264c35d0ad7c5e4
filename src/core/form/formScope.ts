import { context, DATETIME, listOf, PERSON, TEXT, type Scope, type Type } from "../expression";
import type { FieldKinds } from "./fieldBehaviour";
import type { TypedField } from "./fieldBehaviour";
import { flatFields, type Field } from "./field";
import { PEOPLE } from "./people";
import type { RegisterShape, Registers } from "./registerShape";

/** What a form is read against: the registers it may point at, and the kinds its fields may be of. */
export interface FormSurrounding {
  registers: Registers;
  kinds: { fields: FieldKinds };
}

/** The names every formula of a process can read beside its fields. */
export const REQUEST_SCOPE: Scope = {
  Requester: PERSON,
  Request: context({ number: TEXT, started: DATETIME }),
};

/** Links are followed this deep. */
const MAX_DEPTH = 2;

export const fieldType = (f: TypedField, around: FormSurrounding, depth = 0): Type =>
  around.kinds.fields[f.kind].type(f, (register) => recordType(register, around, depth));

/** A record of a register, links followed two deep. */
export function recordType(register: string, around: FormSurrounding, depth = 0): Type {
  if (register === PEOPLE) return PERSON;
  const shape = around.registers[register];
  // Beyond the depth links are followed to, nothing is read along: only which record it is can be asked.
  if (depth > MAX_DEPTH) return context({ id: TEXT }, register);
  const fields: Record<string, Type> = { id: TEXT, name: TEXT };
  if (shape) for (const c of shape.columns) fields[c.name] = fieldType(c, around, depth + 1);
  return context(fields, register);
}

export const columnScope = (lines: Field, around: FormSurrounding): Record<string, Type> =>
  Object.fromEntries(flatFields(lines.fields ?? []).map((c) => [c.name, fieldType(c, around)]));

/** A row of line items. */
export const rowType = (lines: Field, around: FormSurrounding): Type => ({
  t: "context",
  fields: columnScope(lines, around),
  rows: lines.id,
});

/** Names and types of a form's fields; lines are a list of rows. */
export const formScope = (fields: readonly Field[], around: FormSurrounding): Record<string, Type> =>
  Object.fromEntries(
    flatFields(fields).map((f) => [
      f.name,
      f.kind === "lines" ? listOf(rowType(f, around)) : fieldType(f, around),
    ]),
  );

/** The columns of a register as names, for conditions over its records. */
export const recordScope = (shape: RegisterShape, around: FormSurrounding): Scope =>
  Object.fromEntries(shape.columns.map((c) => [c.name, fieldType(c, around, 1)]));
