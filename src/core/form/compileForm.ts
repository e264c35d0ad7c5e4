import { compile, type Names, type Program, type Value } from "../expression";
import type { AccessOf } from "./access";
import type { Facts } from "./facts";
import type { Field, StoredRow } from "./field";
import type { FieldKinds } from "./fieldBehaviour";
import type { FieldPlace, FoundOfRows, PreparedForm } from "./prepare";
import { FormReads } from "./reads";
import type { RecordsAsked } from "./recordsAsked";
import type { Worked } from "./worked";
import type { FormProblem } from "./formProblem";

export type Programs = Partial<Record<FieldPlace, Program>>;

/** One row worked out. Kept between evaluations where its formulas read nothing but the row itself. */
export interface RowMade {
  /** Whom it was worked out for, and the row as it was kept then: copies hang on both. */
  access: AccessOf;
  before: StoredRow | undefined;
  /** What was read anew while it was worked out. */
  anew: ReadonlySet<string> | undefined;
  value: ReadonlyMap<string, Value>;
  names: Names;
  /** Cells that have been asked for, by id of the column. */
  cells: ReadonlyMap<string, Worked>;
  cell(column: Field): Worked;
  isShown(column: Field): Worked;
  examined?: {
    out: StoredRow;
    problems: FormProblem[];
    shown: string[];
    needed: string[];
    asked: readonly RecordsAsked[];
  };
}

/** A prepared form turned into closures; keep it as long as the form. */
export interface FormProgram {
  fields: readonly Field[];
  kinds: FieldKinds;
  byId: ReadonlyMap<string, Programs>;
  /** Line items whose rows depend on nothing outside the row: one keystroke then recalculates one row. */
  closed: ReadonlySet<string>;
  rows: WeakMap<Facts, WeakMap<StoredRow, RowMade>>;
  reads: FormReads;
  found: FoundOfRows;
  /** See `PreparedForm.columns`. */
  columns: NonNullable<PreparedForm["columns"]>;
}

export function compileForm(form: PreparedForm, kinds: FieldKinds): FormProgram {
  const byId = new Map<string, Programs>();
  for (const [id, places] of Object.entries(form.programs)) {
    const programs: Programs = {};
    for (const [place, ast] of Object.entries(places)) if (ast) programs[place as FieldPlace] = compile(ast);
    byId.set(id, programs);
  }
  return {
    fields: form.fields,
    kinds,
    byId,
    closed: new Set(form.closed),
    rows: new WeakMap(),
    reads: new FormReads(form),
    found: form.found ?? {},
    columns: form.columns ?? {},
  };
}
