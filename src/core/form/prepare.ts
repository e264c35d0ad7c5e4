import {
  ANY,
  checkFormula,
  mapTemplate,
  readsInWords,
  YESNO,
  type FormulaProblem,
  type Node,
  type Reads,
  type Reference,
  type Scope,
  type Type,
} from "../expression";
import type { Spot } from "../kinds/places";
import { flatFields, walkFields, type Field } from "./field";
import { fieldsRead } from "./fieldsRead";
import { columnScope, fieldType, formScope, REQUEST_SCOPE, type FormSurrounding } from "./formScope";
import { FORM, FORM_ENTRY, formType, overRecordsScope, scopeOfRecords } from "./overRecords";
import { PEOPLE } from "./people";

/** Where a formula of a field stands. */
export type FieldPlace =
  | "needed"
  | "shown"
  | "worked"
  | "starting"
  | "offered"
  | `check ${number}`
  /** In the braces of its text, counted from its beginning. */
  | `text ${number}`;

/** A form with its formulas parsed: plain JSON, made once per release on the server and sent to browsers. */
export interface PreparedForm {
  fields: readonly Field[];
  /** By field id, then place. A formula with a mistake is absent. */
  programs: Readonly<Record<string, Readonly<Partial<Record<FieldPlace, Node>>>>>;
  /** The fields and columns each of them reads itself. */
  reads: Readonly<Record<string, Readonly<Partial<Record<FieldPlace, readonly string[]>>>>>;
  /** By the same, names that mean columns of the records a formula is about, and not names of the form. */
  columns?: Readonly<Record<string, Readonly<Partial<Record<FieldPlace, readonly string[]>>>>>;
  /** What each of them reads of records, as `Clause.reads` tells it; stays on the server. */
  records?: Readonly<Record<string, Readonly<Partial<Record<FieldPlace, readonly string[]>>>>>;
  /** Line items whose formulas read nothing outside their own row. */
  closed: readonly string[];
  /** What the server found of columns whose formula the reader may not have, by column, place and row. */
  found?: FoundOfRows;
}
export type FoundOfRows = Readonly<
  Record<string, Readonly<Partial<Record<"shown" | "needed", Readonly<Record<string, boolean>>>>>>
>;

export interface FieldFormulaProblem {
  field: string;
  place: FieldPlace;
  formula: string;
  problem: FormulaProblem;
}

/** One formula of a field. */
type FieldSpot = Omit<Spot, "reads"> & { place: FieldPlace; wants: Type; reads?: { columnsOf: string } };

/** A field with each of its own formulas passed through `change`; what is absent or empty is left alone. */
export function mapFieldFormulas(
  f: Field,
  around: FormSurrounding,
  change: (spot: FieldSpot, text: string) => string,
): Field {
  const one = <P extends "needed" | "shown" | "worked" | "starting">(place: P, says: string, wants: Type) =>
    f[place] ? { [place]: change({ place, says, wants }, f[place]) } : {};
  let nth = 0;
  const text = (template: string): string =>
    mapTemplate(template, (formula) => {
      const place: FieldPlace = `text ${nth++}`;
      return formula ? change({ place, says: `the text of “${f.name}”`, wants: ANY }, formula) : formula;
    });
  return {
    ...f,
    ...(f.text ? { text: text(f.text) } : {}),
    ...one("needed", `when “${f.name}” is needed`, YESNO),
    ...one("shown", `when “${f.name}” is shown`, YESNO),
    ...one("worked", `how “${f.name}” is worked out`, fieldType(f, around)),
    ...one("starting", `what “${f.name}” begins with`, fieldType(f, around)),
    ...(f.offered
      ? {
          offered: change(
            {
              place: "offered",
              says: `what can be chosen as “${f.name}”`,
              wants: YESNO,
              reads: { columnsOf: pickedFrom(f, around) },
            },
            f.offered,
          ),
        }
      : {}),
    ...(f.checks
      ? {
          checks: f.checks.map((c, i) => ({
            ...c,
            must: change(
              {
                place: `check ${i}`,
                says: `check ${i + 1} of “${f.name}”`,
                wants: YESNO,
                ...(c.records ? { reads: { columnsOf: c.records.register } } : {}),
              },
              c.must,
            ),
          })),
        }
      : {}),
  };
}

/** What is picked in a field: the register it looks in, or people; nothing that there is for what picks neither. */
export const pickedFrom = (
  f: Pick<Field, "kind" | "register" | "among">,
  { kinds }: FormSurrounding,
): string => {
  if (f.among) return f.among.register;
  return kinds.fields[f.kind].idOf === "person" ? PEOPLE : (f.register ?? "");
};

/** The formulas of one field with the type each must come to, and the register whose records it is about. */
export function fieldFormulas(
  f: Field,
  around: FormSurrounding,
): { place: FieldPlace; formula: string; type: Type; over: string | null }[] {
  const out: { place: FieldPlace; formula: string; type: Type; over: string | null }[] = [];
  mapFieldFormulas(f, around, ({ place, wants, reads }, formula) => {
    out.push({ place, formula, type: wants, over: reads?.columnsOf ?? null });
    return formula;
  });
  return out;
}

/** The names a field's formulas may read: inside lines, the row's own columns come first. */
export function scopeOfField(
  fields: readonly Field[],
  parents: readonly Field[],
  around: FormSurrounding,
  outer: Scope = {},
): Scope {
  const lines = parents.find((p) => p.kind === "lines");
  return {
    ...REQUEST_SCOPE,
    ...outer,
    ...formScope(fields, around),
    ...(lines ? columnScope(lines, around) : {}),
  };
}

/** What a condition of a field over records reads beside their columns. */
export const aroundRecords = (
  fields: readonly Field[],
  parents: readonly Field[],
  around: FormSurrounding,
): Scope => ({
  ...scopeOfField(fields, parents, around),
  [FORM]: formType(
    fields,
    parents.find((p) => p.kind === "lines"),
    around,
  ),
});

const mayBeOutside = ({ target }: Reference): boolean =>
  target.t === "name" || (target.t === "unknown" && target.outside);

/** Whether a formula of a row reads anything outside it. @param byForm the row may be read by way of the form, too */
const readsBeyond = ({ references, wholes }: Reads, own: ReadonlySet<string>, byForm: boolean): boolean =>
  references.some((r) => {
    if (byForm && r.target.t === "name" && r.name === FORM) return false;
    const ofForm = r.target.t === "entry" && r.target.of === FORM_ENTRY;
    return (ofForm || mayBeOutside(r)) && !own.has(r.name);
  }) || wholes.some((w) => w.of === FORM_ENTRY);

/** Parses and checks every formula of a form. */
export function prepareForm(
  fields: readonly Field[],
  around: FormSurrounding,
): { form: PreparedForm; problems: FieldFormulaProblem[] } {
  const programs: Record<string, Partial<Record<FieldPlace, Node>>> = {};
  const reads: Record<string, Partial<Record<FieldPlace, string[]>>> = {};
  const records: Record<string, Partial<Record<FieldPlace, string[]>>> = {};
  const columns: Record<string, Partial<Record<FieldPlace, string[]>>> = {};
  const open = new Set<string>();
  const problems: FieldFormulaProblem[] = [];
  // One scope object per table, because the parser set up for a set of names is kept per object.
  const scopes = new Map<string, Scope>();
  walkFields(fields, (f, parents) => {
    const table = parents.find((p) => p.kind === "lines");
    const lines = table?.id ?? "";
    // Where a check of a row is told at a field outside, whether that is shown counts for the row.
    const own = new Set(flatFields(table?.fields ?? []).map((c) => c.id));
    if (f.checks?.some((c) => c.about?.some((id) => !own.has(id)))) open.add(lines);
    if (!scopes.has(lines)) scopes.set(lines, scopeOfField(fields, parents, around));
    for (const { place, formula, type, over } of fieldFormulas(f, around)) {
      const ofRecords = over === null ? {} : scopeOfRecords(over, around);
      const scope =
        over === null
          ? scopes.get(lines)!
          : { ...scopes.get(lines)!, ...overRecordsScope(over, fields, table, around) };
      const checked = checkFormula(formula, scope, type);
      for (const problem of checked.problems) problems.push({ field: f.id, place, formula, problem });
      if (!checked.ast || checked.problems.length > 0) continue;
      const isColumn = (r: Reference) => mayBeOutside(r) && Object.hasOwn(ofRecords, r.name);
      const asked = checked.reads.references.filter(isColumn).map((r) => r.name);
      const outside = { ...checked.reads, references: checked.reads.references.filter((r) => !isColumn(r)) };
      (programs[f.id] ??= {})[place] = checked.ast;
      const direct = fieldsRead(outside, fields, table);
      // What can be chosen is about what was chosen as well; what is asked of records goes by other rows where it reads them.
      const named = (r: Reference) => r.name === table?.name;
      const also = [
        ...(place === "offered" ? [f.id] : []),
        ...(over !== null && table && outside.references.some(named) ? [table.id] : []),
      ];
      (reads[f.id] ??= {})[place] = [...new Set([...also, ...direct])];
      (records[f.id] ??= {})[place] = [
        ...readsInWords(checked.ast, checked.reads).filter((r) => r.includes(".")),
        ...asked.map((name) => `record ${over}.${name}`),
      ];
      if (asked.length > 0) (columns[f.id] ??= {})[place] = [...new Set(asked)];
      const own = new Set(flatFields(table?.fields ?? []).map((c) => c.name));
      if (readsBeyond(outside, own, over !== null)) open.add(lines);
    }
  });
  const closed = flatFields(fields).filter((f) => f.kind === "lines" && !open.has(f.id));
  return { form: { fields, programs, reads, columns, records, closed: closed.map((f) => f.id) }, problems };
}
