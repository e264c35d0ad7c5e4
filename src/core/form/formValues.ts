import { evaluate, noteUnclear, type FormulaProblem, type Names, type Value } from "../expression";
import type { AccessOf } from "./access";
import type { FormProgram, RowMade } from "./compileForm";
import { isKeptValue, type Copies } from "./copies";
import { fieldValue, type Facts } from "./facts";
import { isGroup, labelOf, MAX_LINES, type Field, type FormData, type Stored, type StoredRow } from "./field";
import type { FieldPlace } from "./prepare";
import { RowValue } from "./rowValue";
import { isForeign } from "./stored";
import type { Worked } from "./worked";

const EMPTY: Worked = { value: null, failed: null };
const value = (v: Value): Worked => ({ value: v, failed: null });

/** Steps all formulas of one evaluation of a form may take together: about a quarter of a second. */
const ALLOWANCE = 1_250_000;

/**
 * The values of a form, each worked out when first asked for, cell by cell, so that order on the sheet does not
 * matter. What cannot be worked out is kept apart from what is empty: whoever reads it gets the reason along.
 */
export class FormValues {
  readonly names: Names;
  /** Fields that hold something their kind cannot read, by the reason they give. */
  readonly unread = new Map<string, string>();
  /** Paths of what was to be read anew and could not be. */
  readonly stayed = new Set<string>();
  private readonly worked = new Map<string, Worked>();
  private readonly shownBy = new Map<string, Worked>();
  private readonly places = new Map<string, { field: Field; parents: readonly Field[] }>();
  private readonly busy = new Set<string>();
  private readonly fuel = { left: ALLOWANCE };
  private readonly passing = new Map<StoredRow, RowMade>();

  constructor(
    private readonly program: FormProgram,
    private readonly typed: FormData,
    private readonly access: AccessOf,
    private readonly facts: Facts,
    extra: Names,
    private readonly copies: Copies,
  ) {
    const place = (fields: readonly Field[], parents: readonly Field[]) => {
      for (const f of fields) {
        if (isGroup(f)) place(f.fields ?? [], [...parents, f]);
        else if (!this.places.has(f.name)) this.places.set(f.name, { field: f, parents });
      }
    };
    place(program.fields, []);
    this.names = {
      get: (name) => {
        const at = this.places.get(name);
        return at ? read(this.of(at.field, at.parents)) : extra.get(name);
      },
    };
  }

  /** What a formula of a field comes to; undefined where there is none. */
  call(f: Field, place: FieldPlace, names: Names, fuel = this.fuel): Worked | undefined {
    const p = this.program.byId.get(f.id)?.[place];
    if (!p) return undefined;
    const notes: FormulaProblem[] = [];
    const v = evaluate(p, { names, around: this.facts, fuel, notes });
    const failed = notes.find((n) => n.code !== "was-empty");
    if (!failed) return value(v);
    const circle = notes.some((n) => n.code === "circle");
    const passedOn = failed.code === "unclear" || failed.code === "circle";
    const own = !passedOn && (place === "worked" || place === "shown");
    const what = place === "shown" ? `Whether “${labelOf(f)}” is shown` : `“${labelOf(f)}”`;
    const message = own ? `${what} cannot be worked out: ${failed.message}` : failed.message;
    return { value: null, failed: message, circle };
  }

  /** A field of the form itself, by its id. */
  placeOf(id: string): { field: Field; parents: readonly Field[] } | undefined {
    return [...this.places.values()].find((p) => p.field.id === id);
  }

  /** What the server found of a column in a row, where its formula reads what the reader may not. */
  found(c: Field, place: "shown" | "needed", row: string): Worked | null {
    const found = this.program.found[c.id]?.[place];
    return found && Object.hasOwn(found, row) ? value(found[row]!) : null;
  }

  /** Whether a field is shown. Where that cannot be worked out it is, so that nothing typed is thrown away. */
  shown(f: Field, parents: readonly Field[]): Worked {
    const known = this.shownBy.get(f.id);
    if (known) return known;
    const parent = parents.at(-1);
    const above = parent ? this.shown(parent, parents.slice(0, -1)) : value(true);
    const own =
      above.value === true ? this.once(`shown ${f.id}`, f, () => this.ownShown(f, this.names)) : above;
    const found = own.failed ? own : { ...above, value: own.value };
    if (!this.busy.has(`shown ${f.id}`)) this.shownBy.set(f.id, found);
    return found;
  }

  private ownShown(f: Field, names: Names): Worked {
    if (!f.shown) return value(true);
    const is = this.call(f, "shown", names) ?? EMPTY;
    return { ...is, value: is.failed !== null || is.value === true };
  }

  of(f: Field, parents: readonly Field[]): Worked {
    const known = this.worked.get(f.id);
    if (known) return known;
    const found = this.once(f.id, f, () => {
      const shown = this.shown(f, parents);
      if (shown.failed) return this.orStays(f, f.id, this.typed[f.id], { ...shown, value: null });
      if (shown.value !== true) return this.nothing(f);
      if (f.kind === "lines") return value(this.rows(f).map((row) => this.row(f, row).value));
      return this.isWorkedOut(f)
        ? this.orStays(f, f.id, this.typed[f.id], this.settled(f, this.call(f, "worked", this.names)))
        : this.filledIn(f, this.typed[f.id]);
    });
    if (!this.busy.has(f.id)) this.worked.set(f.id, found);
    return found;
  }

  /** Works something out unless that is under way already: then it is worked out from itself. */
  private once(key: string, f: Field, work: () => Worked): Worked {
    if (this.busy.has(key))
      return { value: true, failed: `“${labelOf(f)}” is worked out from itself.`, circle: true };
    this.busy.add(key);
    const w = work();
    this.busy.delete(key);
    return w;
  }

  /** Whether a formula is just the name of a sum of money, which reads with its cents. */
  isMoney(formula: string): boolean {
    const at = this.places.get(formula.trim());
    return at !== undefined && this.program.kinds[at.field.kind].has.money;
  }

  /** Whether a value comes from its formula now; a copy does so only when it is taken. */
  isWorkedOut(f: Field, row?: StoredRow): boolean {
    return f.worked !== undefined && f.worked !== "" && !this.copies.stays(f, row);
  }

  /** Of several choices none is a list of none. */
  private nothing(f: Field): Worked {
    return this.program.kinds[f.kind].many ? value([]) : EMPTY;
  }

  private filledIn(f: Field, raw: Stored | undefined): Worked {
    if (Array.isArray(raw) || raw === undefined || raw === null || raw === "") return this.nothing(f);
    const v = fieldValue(f, raw, this.program.kinds, this.facts);
    // Something is there that its kind cannot read: that is not the same as nothing.
    if (v !== null) return value(v);
    const failed = `“${labelOf(f)}” cannot be read.`;
    this.unread.set(failed, f.id);
    return { value: null, failed };
  }

  /** A worked-out value as it is kept. */
  private settled(f: Field, w: Worked | undefined): Worked {
    if (!w || w.failed !== null) return w ?? EMPTY;
    const kind = this.program.kinds[f.kind];
    const settled = kind.settled(w.value);
    if (isForeign(settled, f, kind))
      return {
        value: null,
        failed: `“${labelOf(f)}” cannot be worked out: it comes to a record of another register.`,
      };
    return value(settled);
  }

  /**
   * What is read anew and cannot be worked out any more stays as it is kept, and whatever reads it goes by that: it must
   * not become empty because its record is gone.
   */
  private orStays(f: Field, path: string, raw: Stored | undefined, w: Worked): Worked {
    if (w.failed === null || !isKeptValue(f) || !this.copies.anew?.has(f.id)) return w;
    this.stayed.add(path);
    return this.filledIn(f, raw);
  }

  rows(f: Field): StoredRow[] {
    const raw = this.typed[f.id];
    return Array.isArray(raw) ? raw.slice(0, MAX_LINES) : [];
  }

  /** Rows that read nothing but themselves are kept between evaluations, once they are worked out whole. */
  private kept(f: Field): WeakMap<StoredRow, RowMade> | null {
    if (!this.program.closed.has(f.id)) return null;
    let kept = this.program.rows.get(this.facts);
    if (!kept) this.program.rows.set(this.facts, (kept = new WeakMap()));
    return kept;
  }
  keep(f: Field, row: StoredRow, made: RowMade): void {
    // What failed may have failed for want of allowance, which the next evaluation has anew.
    if (![...made.cells.values()].some((w) => w.failed)) this.kept(f)?.set(row, made);
  }

  row(f: Field, row: StoredRow): RowMade {
    const columns = f.fields ?? [];
    const before = columns.some(isKeptValue) ? this.copies.rowBefore(f.id, row) : undefined;
    const known = this.passing.get(row) ?? this.kept(f)?.get(row);
    const { anew } = this.copies;
    if (known?.access === this.access && known.before === before && known.anew === anew) return known;
    const cells = new Map<string, Worked>();
    const shown = new Map<string, Worked>();
    const within = `${f.id}/${row["#"]}/`;
    const isShown = (c: Field): Worked => {
      let is = shown.get(c.id);
      if (is) return is;
      const key = `shown ${within}${c.id}`;
      const found = this.found(c, "shown", row["#"]);
      is = found ?? this.once(key, c, () => this.ownShown(c, names));
      if (!this.busy.has(key)) shown.set(c.id, is);
      return is;
    };
    const cell = (c: Field): Worked => {
      const known = cells.get(c.id);
      if (known) return known;
      const found = this.once(within + c.id, c, () => {
        const is = isShown(c);
        if (is.failed) return this.orStays(c, within + c.id, row[c.id], { ...is, value: null });
        if (is.value !== true) return this.nothing(c);
        return this.isWorkedOut(c, row)
          ? this.orStays(c, within + c.id, row[c.id], this.settled(c, this.call(c, "worked", names)))
          : this.filledIn(c, row[c.id]);
      });
      if (!this.busy.has(within + c.id)) cells.set(c.id, found);
      return found;
    };
    const byName = (name: string) => columns.find((x) => x.name === name);
    const names: Names = {
      get: (name) => {
        const c = byName(name);
        return c ? read(cell(c)) : this.names.get(name);
      },
    };
    const made: RowMade = {
      access: this.access,
      before,
      anew,
      value: new RowValue(
        columns.map((c) => c.name),
        (name) => read(cell(byName(name)!)),
      ),
      names,
      cells,
      cell,
      isShown,
    };
    this.passing.set(row, made);
    return made;
  }
}

/** A value as a formula gets it; where it could not be worked out the formula is told. */
function read(w: Worked): Value {
  if (w.failed !== null) noteUnclear(w.failed, w.circle ? "circle" : "unclear");
  return w.failed === null ? w.value : null;
}
