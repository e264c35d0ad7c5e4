import { ANY, checkFormula, type Reference } from "../expression";
import { fieldsRead, findField, FORM_ENTRY, walkFields } from "../form";
import { ANY_TYPES, stepKind, type Kinds } from "../kinds";
import type { ProcessDefinition, Step } from "./definition";
import { filledByStart } from "./filledByStarts";
import { formulaPlaces, type FormulaPlace } from "./formulaPlaces";
import type { FormulaOwner, Surrounding } from "./surrounding";
import { placesOf } from "./tree";

/** One place of a definition that reads a field or a column, or gives it a value, or names it. */
export interface FieldUse {
  owner: FormulaOwner;
  /** In words, without saying of what: "reads it for when “Reason” is needed", "gives it a value". */
  says: string;
}

/**
 * Every place of a definition that reads, sets or names a field or a column, in the order of form, starts, route, letters,
 * ladders, templates.
 * Formulas are asked by the one walk over them and the resolver's notes, so that a name that means something else in a
 * round counts as that; what each kind sets it says itself.
 * @param id of the field or column
 */
export function usesOfField(d: ProcessDefinition, around: Surrounding, id: string): FieldUse[] {
  const found = findField(d.fields, id);
  if (!found) return [];
  const lines = found.parents.find((p) => p.kind === "lines");
  const out: FieldUse[] = [];
  for (const p of formulaPlaces(d, around))
    if (!p.ofRecord && reads(d, p, id, lines?.id))
      out.push({ owner: p.owner, says: `reads it for ${p.says}` });
  walkFields(d.fields, (f) => {
    if (f.checks?.some((c) => c.about?.includes(id)))
      out.push({ owner: { kind: "field", id: f.id }, says: "has a check that is told at it" });
  });
  for (const s of d.starts)
    if (filledByStart(s, around.kinds).includes(id))
      out.push({ owner: { kind: "start", id: s.id }, says: "fills it in" });
  for (const { step } of placesOf(d, around.kinds).values())
    for (const says of named(d, step, around.kinds, id, lines?.id ?? id))
      out.push({ owner: { kind: "step", id: step.id }, says });
  return ORDER.flatMap((kind) => out.filter((u) => u.owner.kind === kind));
}
const ORDER = ["process", "field", "start", "step", "letter", "ladder", "document"] as const;

function reads(d: ProcessDefinition, p: FormulaPlace, id: string, lines: string | undefined): boolean {
  const own = p.rowsOf === null ? undefined : findField(d.fields, p.rowsOf)?.field;
  const { reads: all } = checkFormula(p.formula, p.scope, p.type);
  // A column of a register that is called the same is another thing.
  const meant = (r: Reference) => r.target.t !== "name" || p.declared(r.name)?.startsWith("field ");
  const notes = p.columnsOf === null ? all : { ...all, references: all.references.filter(meant) };
  if (!fieldsRead(notes, d.fields, own).includes(id)) return false;
  // A column is read through its table; a field by a name, which may mean something else there.
  return (
    lines !== undefined ||
    notes.references.some(({ name, target }) => {
      const ofForm = target.t === "entry" && target.of === FORM_ENTRY;
      return (ofForm ? p.entries?.declared(name) : p.declared(name)) === `field ${id}`;
    })
  );
}

/** The line items a step goes through, told by whose rows it takes the type of. */
function goesThrough(step: Step, kinds: Kinds): string[] {
  const lines: string[] = [];
  const row = (of: string) => {
    lines.push(of);
    return ANY;
  };
  stepKind(kinds, step).rounds?.names(step, { ...ANY_TYPES, row });
  return lines;
}

/** What a step does with a field besides reading it in formulas. @param whole the field, or the table of a column */
function* named(
  d: ProcessDefinition,
  step: Step,
  kinds: Kinds,
  id: string,
  whole: string,
): Generator<string> {
  const kind = stepKind(kinds, step);
  const sets = kind.sets(step);
  if (sets.includes(id)) yield "gives it a value";
  else if (sets.includes(whole)) yield "changes the rows it stands in";
  if (goesThrough(step, kinds).includes(whole)) yield "goes through its rows";
  if (kind.asks?.offers(step)?.some((o) => o.field === id)) yield "offers what can be chosen in it";
  if (kind.asks?.signs?.(step)?.field === id) yield "has a document signed in it";
  for (const a of kind.asks?.answers(step) ?? [])
    if (a.anew?.includes(id)) yield `reads it anew with “${a.label}”`;
  if (kind.asks?.byMail(step)?.fills?.includes(id)) yield "asks for it in chat";
  const { parts, columns } = d.forms?.[step.id] ?? {};
  if (parts?.includes(id) || columns?.includes(id)) yield "names it among what is shown there";
}
