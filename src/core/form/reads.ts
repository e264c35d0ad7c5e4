import { nameUses, type Node } from "../expression";
import { isGroup, type Field } from "./field";
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
  private readonly top = new Map<string, Field>();
  /** The line items a column stands in, by the column's id. */
  private readonly lines = new Map<string, Field>();
  private readonly direct = new Map<string, Field[]>();
  private readonly kept = new Map<string, Reads>();

  constructor(private readonly form: PreparedForm) {
    const visit = (fields: readonly Field[]): void => {
      for (const f of fields) {
        if (isGroup(f)) visit(f.fields ?? []);
        else if (!this.top.has(f.name)) this.top.set(f.name, f);
        if (f.kind === "lines") for (const c of f.fields ?? []) this.lines.set(c.id, f);
      }
    };
    visit(form.fields);
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

  /** What a formula outside the form reads of it. */
  ofRoute(ast: Node): Reads {
    return this.followed(this.named(ast, undefined));
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

  private directly(id: string, place: FieldPlace): Field[] {
    const key = `${id} ${place}`;
    let known = this.direct.get(key);
    if (known) return known;
    const ast = this.form.programs[id]?.[place];
    this.direct.set(key, (known = ast ? this.named(ast, this.lines.get(id)) : []));
    return known;
  }

  private named(ast: Node, own: Field | undefined): Field[] {
    const out = new Set<Field>();
    const tables = new Set<Field>();
    const byColumn = new Set<Field>();
    for (const { path } of nameUses(ast)) {
      const column = own?.fields?.find((c) => c.name === path[0]);
      if (column) {
        out.add(column);
        continue;
      }
      const f = this.top.get(path[0]!);
      if (!f) continue;
      if (f.kind !== "lines") out.add(f);
      else {
        const c = f.fields?.find((x) => x.name === path[1]);
        if (c) {
          out.add(c);
          byColumn.add(f);
        } else tables.add(f);
      }
    }
    // Where columns are named it is they that are read; a table named without any is read as a whole.
    for (const t of tables) if (!byColumn.has(t)) out.add(t);
    return [...out];
  }
}
