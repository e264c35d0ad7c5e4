import {
  context,
  DATE,
  DATETIME,
  FILE,
  listOf,
  NUMBER,
  PERSON,
  TEXT,
  YESNO,
  type Scope,
  type Type,
} from "../expression";
import { flatFields, type Field } from "./field";
import type { Column, RegisterShape } from "./registerShape";

export type Registers = Readonly<Record<string, RegisterShape>>;

/** The names every formula of a process can read beside its fields. */
export const REQUEST_SCOPE: Scope = {
  Requester: PERSON,
  Request: context({ number: TEXT, started: DATETIME }),
};

export function fieldType(
  f: Pick<Field | Column, "kind" | "register" | "options">,
  registers: Registers,
  depth = 0,
): Type {
  switch (f.kind) {
    case "number":
    case "money":
      return NUMBER;
    case "date":
      return DATE;
    case "yes or no":
      return YESNO;
    case "person":
      return PERSON;
    case "file":
      return FILE;
    case "look-up":
      return recordType(f.register ?? "", registers, depth);
    case "choice":
      return f.options && f.options.length > 0 ? { t: "text", options: f.options } : TEXT;
    default:
      return TEXT;
  }
}

/** A record of a register, links followed two deep. */
export function recordType(register: string, registers: Registers, depth = 0): Type {
  const shape = registers[register];
  const fields: Record<string, Type> = { id: TEXT, name: TEXT };
  if (shape && depth <= 2) for (const c of shape.columns) fields[c.name] = fieldType(c, registers, depth + 1);
  return context(fields, register);
}

export function columnScope(lines: Field, registers: Registers): Record<string, Type> {
  return Object.fromEntries(flatFields(lines.fields ?? []).map((c) => [c.name, fieldType(c, registers)]));
}

/** Names and types of a form's fields; lines are a list of rows. */
export function formScope(fields: readonly Field[], registers: Registers): Record<string, Type> {
  return Object.fromEntries(
    flatFields(fields).map((f) => [
      f.name,
      f.kind === "lines" ? listOf(context(columnScope(f, registers))) : fieldType(f, registers),
    ]),
  );
}

/** The columns of a register as names, for conditions over its records. */
export const recordScope = (shape: RegisterShape, registers: Registers): Scope =>
  Object.fromEntries(shape.columns.map((c) => [c.name, fieldType(c, registers, 1)]));
