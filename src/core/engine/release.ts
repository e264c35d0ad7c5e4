import { checkFormula, compile, isSumCall, type Node, type Program, type Reads } from "../expression";
import {
  compileForm,
  flatFields,
  isKeptValue,
  prepareForm,
  type AccessOf,
  type Field,
  type FormProgram,
  type PreparedForm,
  type Registers,
  type TypedField,
} from "../form";
import { stepKind, type Kinds } from "../kinds";
import type { DocumentTemplate } from "../document";
import type { Letter } from "../letter";
import {
  accessAt,
  ALL_ANSWERS,
  filledByStarts,
  formulaPlaces,
  placesOf,
  stagesOf,
  RouteScopes,
  START,
  textOwner,
  type FormulaOwner,
  type Ladder,
  type ProcessDefinition,
  type Stages,
  type StepPlace,
} from "../route";
import { worksAtOnce } from "./worksAtOnce";

export interface CompiledFormula {
  text: string;
  ast: Node;
  reads: Reads;
  program: Program;
  /** Ids of the steps it reads that work at once: what those come to, they have read themselves. */
  steps: readonly string[];
}

/** The engine asked for a formula at a place that the definition's walk over formulas does not know: a bug. */
export class UnknownPlace extends Error {}

/** A definition ready to run: formulas compiled once, steps found by id. Shared by all requests on it. */
export interface CompiledRelease {
  /** Empty for what is not released. */
  id: string;
  definition: ProcessDefinition;
  registers: Registers;
  kinds: Kinds;
  prepared: PreparedForm;
  form: FormProgram;
  places: ReadonlyMap<string, StepPlace>;
  stages: Stages;
  /** By owner (`letterOwner`). */
  letters: ReadonlyMap<string, Letter>;
  /** By owner (`ladderOwner`). */
  ladders: ReadonlyMap<string, Ladder>;
  /** By owner (`documentOwner`). */
  documents: ReadonlyMap<string, DocumentTemplate>;
  /** By owner the step whose rounds' names a letter, a ladder or a template reads; null for none. */
  roundsOf(owner: string): string | null;
  /**
   * By step id (empty for the process; `letterOwner` for letters, `ladderOwner` for ladders, `documentOwner` for
   * templates), place and text: the same text may read different names in different places.
   * Null for a formula with a mistake, which a released definition has none of.
   * @throws UnknownPlace
   */
  formula(step: string, place: string, text: string): CompiledFormula | null;
  /** Whether a formula reads what was answered each time, which is not at hand in a large request. */
  readsAllAnswers: boolean;
  /** Whether a step never asks whom some rules find, such as who has answered another. */
  keepsApart: boolean;
  /** Steps that some formula reads by name. */
  stepsRead: ReadonlySet<string>;
  /** By step that works at once: those of its formulas that read anything. */
  workedBy: ReadonlyMap<string, readonly CompiledFormula[]>;
  /** Fields that a start fills in by itself. */
  filled: ReadonlySet<string>;
  access(step: string): AccessOf;
  /** Whether a formula of the route reads, on whatever way, a field that is hidden from somebody. */
  readsHidden(reads: Reads): boolean;
  /** Whether any of these fields and columns is hidden from somebody. */
  hidesAny(ids: Iterable<string>): boolean;
  /** Fields that are copies, and line items that have some. */
  copied: readonly Field[];
  /** Names of the fields, columns apart. */
  fieldNames: ReadonlySet<string>;
  /** Names of the fields that hold money. */
  money: ReadonlySet<string>;
  /** Names of the columns that hold money, of line items and registers. */
  moneyColumns: ReadonlySet<string>;
  /** Names of the fields that are worked out as a sum. */
  sums: ReadonlySet<string>;
}

/** What formulas of a letter are found by in the place of a step's id. */
export const letterOwner = (id: string): string => textOwner({ kind: "letter", id });
/** The same of a ladder kept by name. */
export const ladderOwner = (id: string): string => textOwner({ kind: "ladder", id });
/** The same of a template. */
export const documentOwner = (id: string): string => textOwner({ kind: "document", id });

function ownerKey({ kind, id }: FormulaOwner): string {
  switch (kind) {
    case "letter":
    case "ladder":
    case "document":
      return textOwner({ kind, id });
    case "step":
    case "field":
    case "start":
    case "process":
      return id;
  }
}

/** Compiles a definition. One with problems still compiles: a formula with a mistake comes to nothing. */
export function compileRelease(
  definition: ProcessDefinition,
  registers: Registers,
  kinds: Kinds,
  id = "",
): CompiledRelease {
  const prepared = prepareForm(definition.fields, { registers, kinds }).form;
  const formulas = new Map<string, CompiledFormula | null>();
  const stepsRead = new Set<string>();
  const workedBy = new Map<string, CompiledFormula[]>();
  const places = placesOf(definition, kinds);
  const atOnce = new Set(
    [...places.values()].flatMap(({ step }) => (worksAtOnce(kinds, step) ? [step.id] : [])),
  );
  let readsAllAnswers = false;
  for (const p of formulaPlaces(definition, { registers, kinds })) {
    // Those of fields are the form's own business.
    if (p.owner.kind === "field") continue;
    const { ast, reads } = checkFormula(p.formula, p.scope);
    const steps = new Set<string>();
    for (const { name, target } of reads.references) {
      if (name === ALL_ANSWERS && target.t !== "name") readsAllAnswers = true;
      const thing = p.declared(name);
      if (!thing?.startsWith("step ")) continue;
      const step = thing.slice("step ".length);
      stepsRead.add(step);
      if (atOnce.has(step)) steps.add(step);
    }
    const owner = ownerKey(p.owner);
    const compiled = ast && { text: p.formula, ast, reads, program: compile(ast), steps: [...steps] };
    formulas.set(`${owner}|${p.place}|${p.formula}`, compiled);
    // Most tests of a table are written out, and read nothing.
    if (compiled && atOnce.has(owner) && reads.references.length + reads.wholes.length > 0) {
      const others = workedBy.get(owner);
      if (others) others.push(compiled);
      else workedBy.set(owner, [compiled]);
    }
  }
  const { letters = [], ladders = [], documents = [] } = definition;
  const scopes =
    letters.length + ladders.length + documents.length > 0
      ? new RouteScopes(definition, { registers, kinds })
      : null;
  const accesses = new Map<string, AccessOf>();
  const access = (step: string): AccessOf => {
    let a = accesses.get(step);
    if (!a) accesses.set(step, (a = accessAt(definition, step)));
    return a;
  };
  const isMoney = (f: TypedField): boolean => kinds.fields[f.kind].has.money === true;
  const form = compileForm(prepared, kinds.fields);
  const hidesAny = (ids: Iterable<string>): boolean => {
    const steps = Object.keys(definition.access).map(access);
    return [...ids].some((id) => steps.some((at) => at(id) === "hide"));
  };
  return {
    id,
    definition,
    registers,
    kinds,
    prepared,
    form,
    places,
    keepsApart: [...places.values()].some(
      ({ step }) => (stepKind(kinds, step).asks?.who(step).never ?? []).length > 0,
    ),
    stages: stagesOf(definition, kinds),
    letters: new Map(letters.map((l) => [letterOwner(l.id), l])),
    ladders: new Map(ladders.map((l) => [ladderOwner(l.id), l])),
    documents: new Map(documents.map((x) => [documentOwner(x.id), x])),
    roundsOf: (owner) => scopes?.roundsOf(owner) ?? null,
    copied: flatFields(definition.fields).filter((f) => isKeptValue(f) || f.fields?.some(isKeptValue)),
    fieldNames: new Set(flatFields(definition.fields).map((f) => f.name)),
    money: new Set(flatFields(definition.fields).flatMap((f) => (isMoney(f) ? [f.name] : []))),
    moneyColumns: new Set([
      ...definition.fields.flatMap((f) => columnsOf(f).flatMap((c) => (isMoney(c) ? [c.name] : []))),
      ...Object.values(registers).flatMap((r) => r.columns.flatMap((c) => (isMoney(c) ? [c.name] : []))),
    ]),
    sums: new Set(
      flatFields(definition.fields).flatMap((f) => {
        const worked = prepared.programs[f.id]?.worked;
        return worked && isSumCall(worked) ? [f.name] : [];
      }),
    ),
    formula: (step, place, text) => {
      const found = formulas.get(`${step}|${place}|${text}`);
      if (found === undefined)
        throw new UnknownPlace(`no formula "${text}" stands at ${step || "the process"}, ${place}`);
      return found;
    },
    stepsRead,
    workedBy,
    filled: filledByStarts(definition, kinds),
    readsAllAnswers,
    access,
    hidesAny,
    readsHidden: (reads) => hidesAny(form.reads.ofRoute(reads).all),
  };
}

/** Columns of line items, wherever those stand. */
const columnsOf = (f: Field): readonly Field[] =>
  f.kind === "lines" ? flatFields(f.fields ?? []) : (f.fields ?? []).flatMap(columnsOf);

export { START };
