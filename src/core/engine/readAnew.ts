import { readText } from "../expression";
import {
  choicesText,
  evaluateForm,
  fieldValue,
  findField,
  isPicked,
  targetsOf,
  labelOf,
  valueChanges,
  type AccessOf,
  type Field,
  type FormData,
  type FormResult,
  type Stored,
  type StoredRow,
  type ValueChange,
} from "../form";
import type { Turn } from "./turn";

type OneValue = string | boolean | null;
/** What somebody saw values come to, by their paths. */
export type SeenAnew = Readonly<Record<string, OneValue>>;

/** One value that came to be another by being read anew, in words for whoever is about to answer. */
export interface AnewChange {
  /** `total`, or of a cell `items/1/price`. */
  path: string;
  /** "Price of Nitrile gloves" */
  name: string;
  from: string;
  to: string;
  /** What it comes to, as it is stored. */
  value: OneValue;
}

export interface ReadAnewResult {
  form: FormResult;
  /** Those of them this person may see, and of what follows from them. */
  changes: AnewChange[];
  /** Names of what could not be read anew and stays, as far as this person may see it. */
  stays: string[];
}

/**
 * Reads copied and fixed values anew: those named, and no other; what is worked out from them follows. One that cannot be
 * read any more (its record is gone, its formula fails) stays as it is, because a value that could not be worked out must
 * not become an empty one.
 * @param named ids of fields and columns
 * @param data what is kept, with what this person filled in
 * @param shown the form over that data, as they see it
 */
export function readAnew(
  turn: Turn,
  named: readonly string[],
  data: FormData,
  shown: FormResult,
  access: AccessOf,
): ReadAnewResult {
  const { definition, form } = turn.release;
  const { state, facts } = turn;
  const anew = new Set(named);
  const again = evaluateForm(form, data, access, facts, turn.extraNames(), state.data, anew);
  const names = new Naming(turn, again.data, access);
  return {
    form: again,
    changes: valueChanges(definition.fields, shown.data, again.data, access).flatMap((c) => names.change(c)),
    stays: [...again.stayed].flatMap((path) => names.ofPath(path)),
  };
}

/** What values of a form are called to somebody who may see some of them. */
class Naming {
  /** By table what each row is called and which line it is, and how many are called so: worked out once, not for each change. */
  private readonly called = new Map<
    string,
    { rows: Map<StoredRow, { own: string; line: number }>; count: Map<string, number> }
  >();

  constructor(
    private readonly turn: Turn,
    private readonly data: FormData,
    private readonly access: AccessOf,
  ) {}

  change(c: ValueChange): AnewChange[] {
    if (c.what !== "value") return [];
    const { field, row } = c;
    const at = row && this.rows(row.of)[row.number - 1];
    return [
      {
        path: row && at ? `${row.of.id}/${at["#"]}/${field.id}` : field.id,
        name: row && at ? this.inRow(field, row.of, at) : labelOf(field),
        from: this.text(field, c.from),
        to: this.text(field, c.to),
        value: Array.isArray(c.to) ? null : c.to,
      },
    ];
  }

  /** None where it is hidden from them. */
  ofPath(path: string): string[] {
    // Whoever sends a row names it: there may be a slash in that.
    const [first, last] = [path.indexOf("/"), path.lastIndexOf("/")];
    const row = path.slice(first + 1, last);
    const of = findField(this.turn.release.definition.fields, path.slice(last + 1));
    if (!of || [of.field, ...of.parents].some((f) => this.access(f.id) === "hide")) return [];
    const lines = of.parents.find((f) => f.kind === "lines");
    const at = lines && this.rows(lines).find((r) => r["#"] === row);
    return [lines && at ? this.inRow(of.field, lines, at) : labelOf(of.field)];
  }

  /** "Price of Nitrile gloves", or by its number where the row has no name of its own. */
  private inRow(c: Field, table: Field, row: StoredRow): string {
    const { rows, count } = this.calledIn(table);
    const { own, line } = rows.get(row)!;
    if (own && count.get(own) === 1) return `${labelOf(c)} of ${own}`;
    return `${labelOf(c)}, line ${line}${own ? ` (${own})` : ""}`;
  }

  private calledIn(table: Field) {
    let known = this.called.get(table.id);
    if (known) return known;
    known = { rows: new Map(), count: new Map() };
    for (const [i, row] of this.rows(table).entries()) {
      const own = this.rowText(table, row);
      known.rows.set(row, { own, line: i + 1 });
      known.count.set(own, (known.count.get(own) ?? 0) + 1);
    }
    this.called.set(table.id, known);
    return known;
  }

  /** What is filled in first in a row and says what it is about. */
  private rowText(table: Field, row: StoredRow): string {
    const { kinds } = this.turn.release;
    for (const c of table.fields ?? []) {
      const kind = kinds.fields[c.kind];
      const says = isPicked(kind) || c.kind === "text";
      if (!says || c.worked || this.access(c.id) === "hide") continue;
      const text = this.text(c, row[c.id] ?? null, "");
      if (text) return text;
    }
    return "";
  }

  private rows(table: Field): readonly StoredRow[] {
    const v = this.data[table.id];
    return Array.isArray(v) ? v : [];
  }

  /** @param unread what stands for something that cannot be read any more, or not by them */
  private text(f: Field, v: Stored, unread = String(v)): string {
    const { kinds } = this.turn.release;
    const hidden = (register: string) => this.turn.facts.hidesFromActor(`record ${register}.name`);
    if (targetsOf(f, v, kinds.fields).some((to) => hidden(to.register))) return unread;
    if (v === null || v === "" || Array.isArray(v)) return "";
    if (f.optionLabels) return choicesText(f, String(v));
    const read = fieldValue(f, v, kinds.fields, this.turn.facts);
    return read === null ? unread : readText(read, kinds.fields[f.kind].has.money);
  }
}

/**
 * Whether somebody saw just these changes, in whatever order; whoever has looked at nothing has, where nothing came to be
 * another value and all could be read.
 */
export const sawAll = (
  saw: SeenAnew | undefined,
  { changes, stays }: Omit<ReadAnewResult, "form">,
): boolean =>
  saw === undefined
    ? changes.length === 0 && stays.length === 0
    : Object.keys(saw).length === changes.length &&
      changes.every((c) => Object.hasOwn(saw, c.path) && (saw[c.path] ?? null) === c.value);
