import {
  environment,
  evaluate,
  type FormulaProblem,
  type Names,
  type Program,
  type Value,
} from "../expression";
import { evaluateForm, recordTitle, RowValue, type Facts, type FormResult, type StoredRecord } from "../form";
import { BEFORE, type RecordProgram } from "./recordForm";
import type { RecordValues } from "./recordWrite";

export const ALL = () => "edit" as const;

/** The columns of a record, and nothing else it may carry along. */
export const onlyColumns = (p: RecordProgram, r: StoredRecord): RecordValues =>
  Object.fromEntries(p.shape.columns.map((c) => [c.id, r[c.id] ?? null]));

export const evaluated = (p: RecordProgram, data: RecordValues, facts: Facts): FormResult =>
  evaluateForm(p.form, data, ALL, facts);

/**
 * A record as formulas read it where it is called by a name; empty where there is none. Its columns are read when they
 * are asked for, so that the reason why one cannot be read comes to whatever asks.
 */
export function recordValue(p: RecordProgram, record: StoredRecord | null, facts: Facts): Value {
  if (!record) return null;
  const { names } = evaluated(p, onlyColumns(p, record), facts);
  const columns = p.shape.columns.map((c) => c.name);
  return new RowValue([...new Set(["id", "name", ...columns])], (name) => {
    if (columns.includes(name)) return names.get(name) ?? null;
    return name === "id" ? record.id : recordTitle(p.shape, record);
  });
}

/** Names of a record with the record as it was. */
export const withBefore = (names: Names, before: Value): Names => ({
  get: (name) => (name === BEFORE ? before : names.get(name)),
});

/** What a formula comes to, or why that cannot be told; absent where it has a mistake. */
export function asked(
  program: Program | null,
  names: Names,
  facts: Facts,
): { value: Value } | { why: string } {
  if (!program) return { why: "A formula has a mistake." };
  const notes: FormulaProblem[] = [];
  const value = evaluate(program, { ...environment(names, facts), notes });
  const failed = notes.find((n) => n.code !== "was-empty");
  return failed ? { why: failed.message } : { value };
}
