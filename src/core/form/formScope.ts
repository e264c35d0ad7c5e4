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
  Request: context({ number: TEXT, name: TEXT, started: DATETIME }, "request"),
};

/** Links are followed this deep. */
const MAX_DEPTH = 2;

export const fieldType = (f: TypedField, around: FormSurrounding, depth = 0): Type =>
  around.kinds.fields[f.kind].type(f, (register) => recordType(register, around, depth));

/** Types of records by register and depth: where links lead to any of many registers they come by again and again. */
const made = new WeakMap<Registers, WeakMap<FieldKinds, Map<string, Type>>>();
function madeFor({ registers, kinds }: FormSurrounding): Map<string, Type> {
  let byKinds = made.get(registers);
  if (!byKinds) made.set(registers, (byKinds = new WeakMap()));
  let types = byKinds.get(kinds.fields);
  if (!types) byKinds.set(kinds.fields, (types = new Map()));
  return types;
}

/** A record of a register, links followed two deep. Registers do not change: those of another shape are others. */
export function recordType(register: string, around: FormSurrounding, depth = 0): Type {
  const types = madeFor(around);
  const key = `${depth} ${register}`;
  const known = types.get(key);
  if (known) return known;
  const type = makeRecordType(register, around, depth);
  types.set(key, type);
  return type;
}

function makeRecordType(register: string, around: FormSurrounding, depth: number): Type {
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
