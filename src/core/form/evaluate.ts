import { environment, evaluate, isContext, valueText, type Names, type Value } from "../expression";
import type { AccessOf } from "./access";
import { fieldValue, type Facts } from "./facts";
import { MAX_LINES, type Field, type FormData, type Stored, type StoredRow } from "./field";
import type { FormProgram, Programs, RowMade } from "./compileForm";
import type { FieldPlace } from "./prepare";
import type { FormProblem } from "./formProblem";

export interface FormResult {
  /** All values, worked-out ones filled in, fields that are not shown emptied. */
  data: FormData;
  /** Paths of fields that are shown; a field's access is not considered here. */
  shown: ReadonlySet<string>;
  needed: ReadonlySet<string>;
  problems: FormProblem[];
  /** Values by field name as formulas read them, for whatever is evaluated next. */
  names: Names;
}

const NONE: Programs = {};

/**
 * Evaluates a whole form: what is shown, needed, worked out and wrong. The same code runs in the browser
 * at each keystroke, on the server before anything is kept, and in rehearsals.
 * Values are worked out when first asked for, so that order on the sheet does not matter; a circle
 * (which the checks refuse) comes to nothing instead of running on.
 * @param extra names beside the fields: Requester, Request, outcomes of earlier steps
 */
export function evaluateForm(
  program: FormProgram,
  typed: FormData,
  access: AccessOf,
  facts: Facts,
  extra: ReadonlyMap<string, Value> = new Map(),
): FormResult {
  return new Evaluation(program, typed, access, facts, extra).run();
}

class Evaluation {
  private readonly out: Record<string, Stored> = {};
  private readonly shown = new Set<string>();
  private readonly needed = new Set<string>();
  private readonly problems: FormProblem[] = [];
  private readonly values = new Map<string, Value>();
  private readonly shownBy = new Map<string, boolean>();
  private readonly places = new Map<string, { field: Field; parents: readonly Field[] }>();
  private readonly busy = new Set<string>();
  private readonly fuel = { left: 5_000_000 };
  private readonly names: Names;

  constructor(
    private readonly program: FormProgram,
    private readonly typed: FormData,
    private readonly access: AccessOf,
    private readonly facts: Facts,
    extra: ReadonlyMap<string, Value>,
  ) {
    const place = (fields: readonly Field[], parents: readonly Field[]) => {
      for (const f of fields) {
        if (f.kind === "page" || f.kind === "section") place(f.fields ?? [], [...parents, f]);
        else if (!this.places.has(f.name)) this.places.set(f.name, { field: f, parents });
      }
    };
    place(program.fields, []);
    this.names = {
      get: (name) => {
        const at = this.places.get(name);
        return at ? this.valueOf(at.field, at.parents) : extra.get(name);
      },
    };
  }

  run(): FormResult {
    this.walk(this.program.fields, [], true);
    return {
      data: this.out,
      shown: this.shown,
      needed: this.needed,
      problems: this.problems,
      names: this.names,
    };
  }

  private call(id: string, place: FieldPlace, names: Names): Value | undefined {
    const p = (this.program.byId.get(id) ?? NONE)[place];
    return p ? evaluate(p, environment(names, this.facts, this.fuel)) : undefined;
  }

  private isShown(f: Field, parents: readonly Field[]): boolean {
    const known = this.shownBy.get(f.id);
    if (known !== undefined) return known;
    const key = `shown ${f.id}`;
    if (this.busy.has(key)) return true;
    this.busy.add(key);
    const parent = parents.at(-1);
    const value =
      (!parent || this.isShown(parent, parents.slice(0, -1))) &&
      (f.shown === undefined || f.shown === "" || this.call(f.id, "shown", this.names) === true);
    this.busy.delete(key);
    this.shownBy.set(f.id, value);
    return value;
  }

  private valueOf(f: Field, parents: readonly Field[]): Value {
    if (this.values.has(f.id)) return this.values.get(f.id)!;
    if (this.busy.has(f.id)) return null;
    this.busy.add(f.id);
    let v: Value = null;
    if (this.isShown(f, parents)) {
      if (f.kind === "lines") v = this.rows(f);
      else if (f.worked) v = this.settled(f, this.call(f.id, "worked", this.names) ?? null);
      else v = this.scalar(f, this.typed[f.id]);
    }
    this.busy.delete(f.id);
    this.values.set(f.id, v);
    return v;
  }

  private scalar(f: Field, raw: Stored | undefined): Value {
    if (Array.isArray(raw)) return null;
    return fieldValue(f, raw, this.program.kinds, this.facts);
  }

  /** A worked-out value as it is kept. */
  private settled(f: Field, v: Value): Value {
    return this.program.kinds[f.kind].settled(v);
  }

  private rows(f: Field): Value {
    return this.typedRows(f).map((row) => this.rowNames(f, row).value);
  }

  private typedRows(f: Field): StoredRow[] {
    const raw = this.typed[f.id];
    return Array.isArray(raw) ? raw.slice(0, MAX_LINES) : [];
  }

  private readonly passing = new Map<StoredRow, RowMade>();

  private rowCache(f: Field): Pick<Map<StoredRow, RowMade>, "get" | "set"> {
    if (!this.program.closed.has(f.id)) return this.passing;
    let kept = this.program.rows.get(this.facts);
    if (!kept) this.program.rows.set(this.facts, (kept = new WeakMap()));
    return kept as unknown as Map<StoredRow, RowMade>;
  }

  private rowNames(f: Field, row: StoredRow): RowMade {
    const cache = this.rowCache(f);
    const cached = cache.get(row);
    if (cached) return cached;
    const columns = f.fields ?? [];
    const value = new Map<string, Value>();
    const shown = new Set<string>();
    const busy = new Set<string>();
    const of = (c: Field): Value => {
      if (value.has(c.name)) return value.get(c.name)!;
      if (busy.has(c.id)) return null;
      busy.add(c.id);
      let v: Value = null;
      if (c.shown === undefined || c.shown === "" || this.call(c.id, "shown", names) === true) {
        shown.add(c.id);
        v = c.worked ? this.settled(c, this.call(c.id, "worked", names) ?? null) : this.scalar(c, row[c.id]);
      }
      busy.delete(c.id);
      value.set(c.name, v);
      return v;
    };
    const names: Names = {
      get: (name) => {
        const c = columns.find((x) => x.name === name);
        return c ? of(c) : this.names.get(name);
      },
    };
    const made: RowMade = { value, names, shown };
    cache.set(row, made);
    for (const c of columns) of(c);
    return made;
  }

  private walk(fields: readonly Field[], parents: readonly Field[], visible: boolean) {
    for (const f of fields) {
      const shown = visible && this.isShown(f, parents);
      if (shown) this.shown.add(f.id);
      if (f.kind === "page" || f.kind === "section") this.walk(f.fields ?? [], [...parents, f], shown);
      else if (!shown) this.out[f.id] = f.kind === "lines" ? [] : null;
      else if (f.kind === "lines") this.lines(f, parents);
      else {
        const v = this.valueOf(f, parents);
        this.out[f.id] = f.worked ? stored(v) : plain(this.typed[f.id]);
        this.examine(f, f.id, this.typed[f.id], v, this.names);
      }
    }
  }

  private lines(f: Field, parents: readonly Field[]) {
    this.valueOf(f, parents);
    const raw = this.typed[f.id];
    const rows = this.typedRows(f);
    if (Array.isArray(raw) && raw.length > MAX_LINES)
      this.problems.push({
        code: "too-many-lines",
        path: f.id,
        data: { field: f.name, value: String(raw.length), limit: String(MAX_LINES) },
      });
    if (rows.length === 0 && this.isNeeded(f, f.id, this.names) && this.access(f.id) === "edit")
      this.problems.push({ code: "no-lines", path: f.id, data: { field: f.name } });
    this.out[f.id] = rows.map((row, i) => {
      const made = this.rowNames(f, row);
      const known = made.examined;
      if (known?.access === this.access && this.program.closed.has(f.id)) {
        for (const path of known.shown) this.shown.add(path);
        for (const path of known.needed) this.needed.add(path);
        for (const p of known.problems) this.problems.push({ ...p, data: { ...p.data, row: i + 1 } });
        return known.out;
      }
      const before = this.problems.length;
      const prefix = `${f.id}/${row["#"]}/`;
      const shown: string[] = [];
      const out: StoredRow = { "#": row["#"] };
      for (const c of f.fields ?? []) {
        const path = `${f.id}/${row["#"]}/${c.id}`;
        if (!made.shown.has(c.id)) {
          out[c.id] = null;
          continue;
        }
        this.shown.add(path);
        shown.push(path);
        const v = made.value.get(c.name) ?? null;
        out[c.id] = c.worked ? stored(v) : (plain(row[c.id]) as string | boolean | null);
        this.examine(c, path, row[c.id], v, made.names, i + 1);
      }
      made.examined = {
        access: this.access,
        out,
        shown,
        problems: this.problems.slice(before),
        needed: (f.fields ?? []).map((c) => prefix + c.id).filter((p) => this.needed.has(p)),
      };
      return out;
    });
    for (const [i] of (f.checks ?? []).entries()) this.check(f, f.id, i, this.names);
  }

  private isNeeded(f: Field, path: string, names: Names): boolean {
    const is = f.needed !== undefined && f.needed !== "" && this.call(f.id, "needed", names) === true;
    if (is) this.needed.add(path);
    return is;
  }

  private check(f: Field, path: string, i: number, names: Names, row?: number) {
    // Only a plain "no" refuses: a check over fields still empty has nothing to say yet.
    if (this.call(f.id, `check ${i}`, names) === false)
      this.problems.push({
        code: "check",
        path,
        data: { field: f.name, say: f.checks![i]!.say, ...(row ? { row } : {}) },
      });
  }

  private examine(f: Field, path: string, raw: Stored | undefined, v: Value, names: Names, row?: number) {
    const columnId = path.split("/").at(-1)!;
    const needed = this.isNeeded(f, path, names);
    if (
      f.worked ||
      this.access(columnId) !== "edit" ||
      (row !== undefined && this.access(path.split("/")[0]!) !== "edit")
    )
      return;
    const say = (code: FormProblem["code"], data: Partial<FormProblem["data"]> = {}) =>
      this.problems.push({ code, path, data: { field: f.name, ...(row ? { row } : {}), ...data } });
    const empty =
      raw === undefined || raw === null || raw === "" || (typeof raw === "string" && raw.trim() === "");
    if (empty) {
      if (needed) say("needed");
    } else {
      for (const m of this.program.kinds[f.kind].mistakes(f, raw, v)) say(m.code, m.data);
    }
    for (const [i] of (f.checks ?? []).entries()) this.check(f, path, i, names, row);
  }
}

const plain = (raw: Stored | undefined): Stored => (raw === undefined || raw === "" ? null : raw);

/** A value as it is stored. */
export function stored(v: Value): string | boolean | null {
  if (v === null || typeof v === "boolean" || typeof v === "string") return v;
  if (isContext(v)) {
    const id = v.get("id");
    return typeof id === "string" ? id : valueText(v);
  }
  return valueText(v);
}
