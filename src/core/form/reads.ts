import type { Reads as FormulaReads } from "../expression";
import type { AccessOf } from "./access";
import { walkFields, type Field } from "./field";
import { fieldsRead } from "./fieldsRead";
import type { FieldPlace, PreparedForm } from "./prepare";

/** What a formula of a form hangs on, by ids of fields and columns. */
export interface Reads {
  /** All it reads, directly or through worked-out fields. */
  all: ReadonlySet<string>;
  /** Those of them that are filled in and not worked out. */
  filledIn: ReadonlySet<string>;
}
const NOTHING: Reads = { all: new Set(), filledIn: new Set() };

/** What each formula of a form reads, followed through worked-out fields to what is filled in. */
export class FormReads {
  private readonly fields = new Map<string, Field>();
  /** The line items a column stands in, by the column's id. */
  private readonly lines = new Map<string, Field>();
  private readonly direct = new Map<string, Field[]>();
  private readonly kept = new Map<string, Reads>();

  constructor(private readonly form: PreparedForm) {
    walkFields(form.fields, (f, parents) => {
      this.fields.set(f.id, f);
      const table = parents.find((p) => p.kind === "lines");
      if (table) this.lines.set(f.id, table);
    });
  }

  of(id: string, place: FieldPlace): Reads {
    const key = `${id} ${place}`;
    let known = this.kept.get(key);
    if (!known) this.kept.set(key, (known = this.followed(this.directly(id, place))));
    return known;
  }

  /** The table a column stands in; null for a field of the form itself. */
  tableOf(column: string): string | null {
    return this.lines.get(column)?.id ?? null;
  }

  nameOf(id: string): string {
    return this.fields.get(id)?.name ?? "";
  }

  /** Whether somebody may edit a field, or a column: then also its table. */
  mayEdit(id: string, access: AccessOf): boolean {
    const table = this.tableOf(id);
    return access(id) === "edit" && (table === null || access(table) === "edit");
  }

  /** What a formula outside the form reads of it. */
  ofRoute(reads: FormulaReads): Reads {
    return this.followed(this.byIds(fieldsRead(reads, this.form.fields)));
  }

  private followed(first: readonly Field[]): Reads {
    if (first.length === 0) return NOTHING;
    const all = new Set<string>();
    const filledIn = new Set<string>();
    const todo = [...first];
    for (let f = todo.pop(); f; f = todo.pop()) {
      if (all.has(f.id)) continue;
      all.add(f.id);
      if (f.worked) todo.push(...this.directly(f.id, "worked"));
      else filledIn.add(f.id);
    }
    return { all, filledIn };
  }

  /** The fields and columns a formula reads itself. */
  directly(id: string, place: FieldPlace): readonly Field[] {
    const key = `${id} ${place}`;
    let known = this.direct.get(key);
    if (!known) this.direct.set(key, (known = this.byIds(this.form.reads[id]?.[place] ?? [])));
    return known;
  }

  private byIds(ids: readonly string[]): Field[] {
    return ids.flatMap((id) => this.fields.get(id) ?? []);
  }
}
