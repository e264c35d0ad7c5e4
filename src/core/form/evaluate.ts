import { isList, readText, templateParts, valueText, type Names, type Value } from "../expression";
import type { AccessOf } from "./access";
import type { FormProgram, RowMade } from "./compileForm";
import { Copies } from "./copies";
import { fieldValue, type Facts } from "./facts";
import {
  isGroup,
  labelOf,
  MAX_LINES,
  type Check,
  type Field,
  type FormData,
  type Stored,
  type StoredRow,
} from "./field";
import type { FormProblem } from "./formProblem";
import { FormValues } from "./formValues";
import { passKey } from "./passing";
import type { FieldPlace } from "./prepare";
import type { Reads } from "./reads";
import { RecordConditions, type Spot } from "./recordConditions";
import type { RecordsAsked } from "./recordsAsked";
import { stored } from "./stored";
import type { Worked } from "./worked";

export interface FormResult {
  /** All values, worked-out ones filled in, fields that are not shown emptied. */
  data: FormData;
  /** Paths of fields that are shown; a field's access is not considered here. */
  shown: ReadonlySet<string>;
  needed: ReadonlySet<string>;
  /** By path why a worked-out field has no value, where that is not because it is empty. */
  failed: ReadonlyMap<string, string>;
  problems: FormProblem[];
  /** Paths of what was to be read anew and could not be: it is as it was. */
  stayed: ReadonlySet<string>;
  /** What checks ask of records. */
  asked: readonly RecordsAsked[];
  /** By field what stands for each formula of its text. */
  texts: ReadonlyMap<string, readonly string[]>;
  /** Values by field name as formulas read them, for whatever is evaluated next. */
  names: Names;
}

/**
 * Evaluates a whole form: what is shown, needed, worked out and wrong. The same code runs in the browser
 * at each keystroke, on the server before anything is kept, and in rehearsals.
 * Values are worked out when first asked for, so that order on the sheet does not matter; a circle
 * (which the checks refuse) comes to nothing instead of running on.
 * @param extra names beside the fields: Requester, Request, outcomes of earlier steps
 * @param before what is kept of the request while somebody fills in something else: what was copied for it stays
 * @param anew ids of copied and fixed fields and columns that are read anew all the same
 */
export function evaluateForm(
  program: FormProgram,
  typed: FormData,
  access: AccessOf,
  facts: Facts,
  extra: Names = new Map(),
  before: FormData = typed,
  anew?: ReadonlySet<string>,
): FormResult {
  return new Evaluation(
    program,
    typed,
    access,
    facts,
    extra,
    new Copies(program.reads, typed, before, access, anew),
  ).run();
}

class Evaluation {
  private readonly out: Record<string, Stored> = {};
  private readonly shown = new Set<string>();
  private readonly needed = new Set<string>();
  private readonly failed = new Map<string, string>();
  private readonly problems: FormProblem[] = [];
  private readonly texts = new Map<string, readonly string[]>();
  private readonly records: RecordConditions;
  private readonly values: FormValues;
  /** What texts may take together, apart from all else: a long one must not keep a rule from being worked out. */
  private readonly forTexts = { left: 250_000 };

  constructor(
    private readonly program: FormProgram,
    private readonly typed: FormData,
    private readonly access: AccessOf,
    private readonly facts: Facts,
    extra: Names,
    copies: Copies,
  ) {
    this.values = new FormValues(program, typed, access, facts, extra, copies);
    this.records = new RecordConditions(program, this.values, facts);
  }

  run(): FormResult {
    this.walk(this.program.fields, [], true);
    return {
      data: this.out,
      shown: this.shown,
      needed: this.needed,
      failed: this.failed,
      problems: this.problems,
      stayed: this.values.stayed,
      asked: this.records.asked,
      texts: this.texts,
      names: this.values.names,
    };
  }

  private walk(fields: readonly Field[], parents: readonly Field[], visible: boolean) {
    for (const f of fields) {
      const is = this.values.shown(f, parents);
      const shown = visible && is.value === true;
      if (shown) this.shown.add(f.id);
      const spot = { path: f.id, names: this.values.names };
      if (shown && is.failed && f.shown) this.unclear(f, "shown", spot, is.failed);
      if (isGroup(f) && shown && f.text) this.texts.set(f.id, this.textOf(f, f.text));
      if (isGroup(f)) {
        this.walk(f.fields ?? [], [...parents, f], shown);
        if (shown && !is.failed) this.checks(f, spot);
      } else if (!shown) this.out[f.id] = f.kind === "lines" ? [] : null;
      else if (f.kind === "lines") this.lines(f, parents);
      else {
        const w = this.values.of(f, parents);
        const raw = this.kept(f, w, this.typed, spot.path);
        this.out[f.id] = raw;
        if (!is.failed) this.examine(f, raw, w, spot);
      }
    }
  }

  /** What stands for each formula of a text; nothing for what is empty or cannot be worked out: texts decide nothing. */
  private textOf(f: Field, text: string): string[] {
    const formulas = templateParts(text).flatMap((p) => ("formula" in p ? [p.formula] : []));
    return formulas.map((formula, i) => {
      const is = this.values.call(f, `text ${i}`, this.values.names, this.forTexts);
      return readText(is?.value ?? null, this.values.isMoney(formula));
    });
  }

  private lines(f: Field, parents: readonly Field[]) {
    this.values.of(f, parents);
    const raw = this.typed[f.id];
    const rows = this.values.rows(f);
    const spot = { path: f.id, names: this.values.names };
    const count = Array.isArray(raw) ? raw.length : 0;
    if (count > MAX_LINES)
      this.say(f, spot, "too-many-lines", { value: String(count), limit: String(MAX_LINES) });
    else if (this.mayEdit(f.id)) this.countRows(f, spot, count);
    if (this.isNeeded(f, spot) && rows.length === 0 && this.access(f.id) === "edit")
      this.problems.push({ code: "no-lines", path: f.id, data: { field: labelOf(f) } });
    const out = rows.map((row, i) => {
      const made = this.values.row(f, row);
      const known = made.examined;
      if (known && this.program.closed.has(f.id)) {
        for (const path of known.shown) this.shown.add(path);
        for (const path of known.needed) this.needed.add(path);
        this.records.again(known.asked);
        for (const p of known.problems) this.problems.push({ ...p, data: { ...p.data, row: i + 1 } });
        return known.out;
      }
      return this.line(f, row, i, made);
    });
    this.out[f.id] = out;
    for (const c of f.fields ?? []) if (c.unique) this.toldApart(f, c, out);
    this.checks(f, spot);
  }

  /** How many rows there must be, where there are any, and how many there may. */
  private countRows(f: Field, spot: Spot, count: number) {
    const value = String(count);
    if (f.max && count > Number(f.max)) this.say(f, spot, "too-many-lines", { value, limit: f.max });
    if (f.min && count > 0 && count < Number(f.min))
      this.say(f, spot, "too-few-lines", { value, limit: f.min });
  }

  /** Says of each row that holds in a column what a row before it holds. Held against those who may edit table or column. */
  private toldApart(f: Field, c: Field, rows: readonly StoredRow[]) {
    if (!this.mayEdit(f.id) && !this.mayEdit(c.id)) return;
    const kind = this.program.kinds[c.kind];
    const seen = new Map<string, number>();
    for (const [i, row] of rows.entries()) {
      const raw = row[c.id];
      if (raw === null || raw === undefined || raw === "") continue;
      const v = fieldValue(c, raw, this.program.kinds, this.facts);
      // Numbers by what they are, and texts whatever their capitals; a record or a person by its id.
      const same = v === null || kind.idOf !== null ? String(raw) : valueText(v).trim().toLowerCase();
      const first = seen.get(same);
      if (first === undefined) seen.set(same, i + 1);
      else {
        const value = v === null ? String(raw) : readText(v, kind.has.money);
        const spot = { path: `${f.id}/${row["#"]}/${c.id}`, names: this.values.names, row: i + 1 };
        this.say(c, spot, "twice", { value, limit: String(first) });
      }
    }
  }

  private line(f: Field, row: StoredRow, i: number, made: RowMade): StoredRow {
    const before = this.problems.length;
    const asked = this.records.asked.length;
    const shown: string[] = [];
    const out: StoredRow = { "#": row["#"] };
    for (const c of f.fields ?? []) {
      const path = `${f.id}/${row["#"]}/${c.id}`;
      const spot = { path, names: made.names, row: i + 1 };
      const is = made.isShown(c);
      const w = made.cell(c);
      if (is.value !== true) {
        out[c.id] = null;
        continue;
      }
      if (is.failed) this.unclear(c, "shown", spot, is.failed);
      this.shown.add(path);
      shown.push(path);
      const raw = this.kept(c, w, row, path, row);
      out[c.id] = raw as string | boolean | null;
      if (!is.failed) this.examine(c, raw, w, spot);
    }
    const prefix = `${f.id}/${row["#"]}/`;
    made.examined = {
      out,
      shown,
      problems: this.problems.slice(before),
      needed: (f.fields ?? []).map((c) => prefix + c.id).filter((p) => this.needed.has(p)),
      asked: this.records.asked.slice(asked),
    };
    // A rule that could not be worked out may have wanted for allowance, which the next evaluation has anew.
    if (!made.examined.problems.some((p) => p.code === "unclear")) this.values.keep(f, row, made);
    return out;
  }

  /** What is kept of a field: as it was filled in, as it was copied, or as it is worked out. */
  private kept(f: Field, w: Worked, of: FormData | StoredRow, path: string, row?: StoredRow): Stored {
    const worked = this.values.isWorkedOut(f, row) && !this.values.stayed.has(path);
    return worked ? stored(w.value, this.program.kinds[f.kind]) : plain(of[f.id]);
  }

  private isNeeded(f: Field, spot: Spot): boolean {
    if (!f.needed) return false;
    const row = spot.row === undefined ? null : this.values.found(f, "needed", spot.path.split("/")[1]!);
    const is = row ?? this.values.call(f, "needed", spot.names);
    if (is?.failed) this.unclear(f, "needed", spot, is.failed);
    if (is?.value !== true) return false;
    this.needed.add(spot.path);
    return true;
  }

  private checks(f: Field, spot: Spot) {
    for (const [i, c] of (f.checks ?? []).entries()) {
      if (!this.binds(f, `check ${i}`)) continue;
      if (c.records) {
        const there = this.records.there(f, i, spot);
        if (there && "why" in there) this.unclear(f, `check ${i}`, spot, there.why);
        else if (there && there.yes !== (c.records.there === "some")) this.refuse(f, i, c, spot);
        continue;
      }
      const is = this.values.call(f, `check ${i}`, spot.names);
      // Only a plain "no" refuses: a check over fields still empty has nothing to say yet.
      if (is?.value === false) this.refuse(f, i, c, spot);
      else if (is?.failed) this.unclear(f, `check ${i}`, spot, is.failed);
    }
  }

  /** Says that a check does not hold, where it is about: at fields that are shown and open to whoever fills it in. */
  private refuse(f: Field, nth: number, c: Check, spot: Spot) {
    const row = spot.row === undefined ? null : spot.path.slice(0, spot.path.lastIndexOf("/"));
    const [path = spot.path, ...also] = (c.about ?? []).flatMap((id) => {
      const table = this.program.reads.tableOf(id);
      if (table !== null)
        return row?.startsWith(`${table}/`) && this.access(id) !== "hide" ? `${row}/${id}` : [];
      const at = this.values.placeOf(id);
      const open = at && [at.field, ...at.parents].every((x) => this.access(x.id) !== "hide");
      return open && this.values.shown(at.field, at.parents).value === true ? id : [];
    });
    const about: Partial<FormProblem> = {
      ...(also.length > 0 ? { also } : {}),
      ...(c.passable ? { pass: passKey(spot.path, nth) } : {}),
    };
    this.say(f, { ...spot, path }, "check", { say: c.say }, about);
  }

  private examine(f: Field, raw: Stored, w: Worked, spot: Spot) {
    const needed = this.isNeeded(f, spot);
    if (f.worked && w.failed) this.failed.set(spot.path, w.failed);
    if (f.worked ? this.binds(f, "worked") : this.mayEdit(f.id)) {
      const empty = raw === null || (typeof raw === "string" && raw.trim() === "");
      if (!empty) for (const m of this.mistakes(f, raw, w.value)) this.say(f, spot, m.code, m.data);
      // What is fixed would be empty for good.
      else if (w.failed && (needed || f.fixed || f.min !== undefined || f.max !== undefined))
        this.unclear(f, "worked", spot, w.failed);
      else if (needed) this.say(f, spot, "needed");
    }
    if ((f.offered || f.among) && raw !== null && w.value !== null && this.binds(f, "offered")) {
      const is = this.mayBePicked(f, raw, w.value, spot);
      if (is && "why" in is) this.unclear(f, "offered", spot, is.why);
      else if (is && !is.yes) this.say(f, spot, "not-offered");
    }
    this.checks(f, spot);
  }

  private mistakes = (f: Field, raw: Stored, v: Value) => this.program.kinds[f.kind].mistakes(f, raw, v);

  /** What can be none of the texts of a column is not looked for there. */
  private mayBePicked(f: Field, raw: Stored, v: Value, spot: Spot) {
    if (!f.among) return this.records.offered(f, v, spot);
    return this.mistakes(f, raw, v).length > 0 ? null : this.records.among(f, textsOf(v), spot);
  }

  /** Something that cannot be worked out holds those who could do something about it. */
  private unclear(f: Field, place: FieldPlace, spot: Spot, why: string) {
    if (!this.binds(f, place)) return;
    // What cannot be read is told where it stands, to whoever may edit it there.
    const unread = this.values.unread.get(why);
    if (unread !== undefined && this.mayEdit(unread)) return;
    // The reason may tell of values; it is for those who may see all of what is read.
    const open = [...this.reads(f, place).all].every((id) => this.access(id) !== "hide");
    this.say(f, spot, "unclear", open ? { why } : {});
  }

  private say(
    f: Field,
    { path, row }: Spot,
    code: FormProblem["code"],
    data: Partial<FormProblem["data"]> = {},
    about: Partial<FormProblem> = {},
  ) {
    this.problems.push({
      code,
      path,
      ...about,
      data: { field: labelOf(f), ...(row ? { row } : {}), ...data },
    });
  }

  private reads = (f: Field, place: FieldPlace): Reads => this.program.reads.of(f.id, place);

  private mayEdit(id: string): boolean {
    return this.program.reads.mayEdit(id, this.access);
  }

  /** Rules bind only those who may edit something they read; one that reads no field, those who may edit its own. */
  private binds(f: Field, place: FieldPlace): boolean {
    const { all, filledIn } = this.reads(f, place);
    if (all.size === 0) return !f.worked && this.mayEdit(f.id);
    return [...filledIn].some((id) => this.mayEdit(id));
  }
}

const textsOf = (v: Value): string[] =>
  (isList(v) ? v : [v]).flatMap((x) => (typeof x === "string" ? [x] : []));

const plain = (raw: Stored | undefined): Stored => (raw === undefined || raw === "" ? null : raw);
