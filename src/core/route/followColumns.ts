import { renameInFormula, rewriteNames, type Renaming } from "../expression";
import { type ColumnNames, type RegisterShape, type Registers } from "../form";
import type { Kinds } from "../kinds";
import { columnsCalled } from "../records";
import type { ProcessDefinition } from "./definition";
import type { Edit, EditRefusal } from "./edit";
import { formulaPlaces, mapFormulas, spaced, type FormulaPlace } from "./formulaPlaces";
import type { Surrounding } from "./surrounding";

/** A definition that reads columns by what they are called now, and the first formula that could not be followed. */
export interface Followed {
  definition: ProcessDefinition;
  unclear: Extract<EditRefusal, { code: "rename-unclear" }> | null;
}

/**
 * The definition with its formulas reading columns of registers by other names than they did: what was checked with some
 * names goes on meaning the same, whatever columns are called or come along since. A formula of which that cannot be
 * told stays as it is, and the first of them is told.
 * @param before the registers as the definition was written against them
 * @param after the same as they are called now, with what was added
 */
export function followColumns(
  d: ProcessDefinition,
  before: Registers,
  after: Registers,
  kinds: Kinds,
): Followed {
  const { renamed, added } = columnsCalled(before, after);
  if (renamed.length === 0 && added.length === 0) return { definition: d, unclear: null };
  const words = [...renamed.flatMap((r) => [r.from, r.to]), ...added];
  const was = formulaPlaces(d, { registers: before, kinds });
  const written = renamed.length === 0 ? d : rewritten(d, { before, after, kinds }, renamed);
  const is = formulaPlaces(written, { registers: after, kinds });
  let unclear: Followed["unclear"] = null;
  const texts = was.map((p, i) => {
    // Whole records may be taken apart by the names of their columns where none of those stands.
    if (renamed.length === 0 && !named(p, words)) return p.formula;
    const r = renameInFormula(p.formula, p, is[i]!, renamed);
    if ("text" in r) return r.text;
    const { from, to, why } = r.unclear;
    const name = renamed.find((x) => named(p, [x.from, x.to]))?.from ?? renamed[0]?.from ?? added[0]!;
    unclear ??= { code: "rename-unclear", data: { name, says: p.says, formula: p.formula, from, to, why } };
    return p.formula;
  });
  let at = 0;
  const definition = unclear ? textsWritten(d, { registers: before, kinds }, () => texts[at++]!) : written;
  return { definition: texts.some((t, i) => t !== was[i]!.formula) ? definition : d, unclear };
}

/** All formulas with names written anew: what one of them means may hang on another, so that each is looked at after. */
function rewritten(
  d: ProcessDefinition,
  { before, after, kinds }: { before: Registers; after: Registers; kinds: Kinds },
  renamed: readonly Renaming[],
): ProcessDefinition {
  const names = formulaPlaces(d, { registers: after, kinds });
  let n = 0;
  return textsWritten(d, { registers: before, kinds }, (p) => {
    const r = rewriteNames(p.formula, p, names[n++]!, renamed);
    return "text" in r ? r.text : p.formula;
  });
}

const textsWritten = (d: ProcessDefinition, around: Surrounding, formula: (p: FormulaPlace) => string) =>
  mapFormulas(d, around, { formula });

const named = (p: FormulaPlace, words: readonly string[]): boolean =>
  words.some((w) => spaced(p.formula).includes(w));

/** What columns are called, to be kept with what was checked against them. */
export const columnNames = (shapes: readonly RegisterShape[]): ColumnNames =>
  Object.fromEntries(shapes.map((s) => [s.key, Object.fromEntries(s.columns.map((c) => [c.id, c.name]))]));

/** The registers as something knew them that was checked with these names: without the columns that came later. */
export function registersKnown(registers: Registers, names: ColumnNames): Registers {
  return Object.fromEntries(
    Object.values(registers).map((s) => [s.key, names[s.key] ? shapeKnown(s, names[s.key]!) : s]),
  );
}

function shapeKnown(shape: RegisterShape, names: Readonly<Record<string, string>>): RegisterShape {
  const columns = shape.columns.flatMap((c) => {
    const name = Object.hasOwn(names, c.id) ? names[c.id] : undefined;
    if (name === undefined) return [];
    return [name === c.name ? c : { ...c, name }];
  });
  const same = columns.length === shape.columns.length && columns.every((c, i) => c === shape.columns[i]);
  return same ? shape : { ...shape, columns };
}

/**
 * The definition as an edit has it read columns that are called otherwise. The names the edit says count, before and
 * after, whatever the register calls them by now: an edit is put onto others' long after it was made.
 */
export const renameColumns = (
  d: ProcessDefinition,
  e: ColumnsRenamed,
  { registers, kinds }: Surrounding,
): ProcessDefinition =>
  followColumns(d, registersCalled(registers, e, "from"), registersCalled(registers, e, "to"), kinds)
    .definition;

type ColumnsRenamed = Extract<Edit, { op: "columns.rename" }>;

/** The registers with columns called as an edit says they were, or are. */
export function registersCalled(registers: Registers, e: ColumnsRenamed, by: "from" | "to"): Registers {
  const shape = registers[e.register];
  if (!shape) return registers;
  const columns = shape.columns.map((c) => ({
    ...c,
    name: e.columns.find((x) => x.id === c.id)?.[by] ?? c.name,
  }));
  return { ...registers, [shape.key]: { ...shape, columns } };
}
