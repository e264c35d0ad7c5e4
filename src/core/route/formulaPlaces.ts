import {
  isReadByName,
  ruleKind,
  rungKind,
  startKind,
  stepKind,
  type FormulaWalk,
  type Kinds,
  type Spot,
} from "../kinds";
import {
  ANY,
  context,
  DATETIME,
  listOf,
  mapTemplate,
  nameMistake,
  PERSON,
  TEXT,
  YESNO,
  type Scope,
  type Type,
} from "../expression";
import {
  columnScope,
  fieldType,
  findField,
  flatFields,
  formScope,
  mapFieldFormulas,
  recordScope,
  recordType,
  REQUEST_SCOPE,
  type Field,
  type Registers,
} from "../form";
import type { ProcessDefinition, Step } from "./definition";
import { withLists } from "./tree";

/** What a formula belongs to. `id` is that of the step, field or start; empty for the process. */
export interface FormulaOwner {
  kind: "step" | "field" | "start" | "process";
  id: string;
}

/** One formula of a definition: where it stands, what it must come to, and which names it may read. */
export interface FormulaPlace {
  owner: FormulaOwner;
  /** Within its owner: "who", "way small", "value status". */
  place: string;
  /** What stands there, for a reader. */
  says: string;
  formula: string;
  type: Type;
  scope: Scope;
  /** Which thing a name means here: `field f3` (also a column), `step s2`, `given Requester`; null for none. */
  declared(name: string): string | null;
  /** The same for all places that read the same names. */
  signature: string;
  /** Whose columns come before the names of the route: the id of line items, or the key of a register; null for none. */
  rowsOf: string | null;
  /** Reads a record's columns and nothing of the process. */
  ofRecord: boolean;
  /** One of several conditions that are tried one after the other. */
  inOrder: boolean;
  /** Stands in the braces of a text. */
  inText: boolean;
}
/** A text with formulas in braces, whole. */
export interface TemplatePlace {
  owner: FormulaOwner;
  place: string;
  says: string;
  template: string;
}
export interface Surrounding {
  registers: Registers;
  kinds: Kinds;
}

const ANSWER = { answer: TEXT, note: TEXT, by: PERSON, at: DATETIME };
/** What a step came to, and what each of those asked has said. */
const OUTCOME: Type = context({ ...ANSWER, answers: listOf(context(ANSWER)) });

/** Steps that formulas may read by name, what they decided or what they found; of two of one name the first. */
function namedSteps(definition: ProcessDefinition, kinds: Kinds): Map<string, Step> {
  const out = new Map<string, Step>();
  const visit = (steps: readonly Step[]) => {
    for (const s of steps) {
      if (isReadByName(kinds, s) && nameMistake(s.name) === null && !out.has(s.name)) out.set(s.name, s);
      withLists(s, kinds, (_, l) => (visit(l), l));
    }
  };
  visit(definition.route);
  return out;
}

/** The names a route formula may read: fields, Requester, Request, and what each step came to that has something. */
export function routeScope(definition: ProcessDefinition, around: Surrounding): Scope {
  const record = (register: string) => recordType(register, around);
  const steps = Object.fromEntries(
    [...namedSteps(definition, around.kinds)].map(([name, s]) => [
      name,
      stepKind(around.kinds, s).gives?.(s, record) ?? OUTCOME,
    ]),
  );
  return { ...steps, ...REQUEST_SCOPE, ...formScope(definition.fields, around) };
}

interface ScopeHere {
  scope: Scope;
  signature: string;
  declared(name: string): string | null;
}

/** Scopes by what they read; one object each, because what is set up for a set of names is kept per object. */
class Scopes {
  private readonly made = new Map<string, ScopeHere>();
  private readonly outer: Scope;
  private readonly form: Scope;
  private readonly steps: ReadonlyMap<string, Step>;
  private readonly fields: ReadonlyMap<string, string>;
  constructor(
    private readonly d: ProcessDefinition,
    private readonly around: Surrounding,
  ) {
    this.outer = routeScope(d, around);
    this.form = { ...REQUEST_SCOPE, ...formScope(d.fields, around) };
    this.steps = namedSteps(d, around.kinds);
    this.fields = new Map(flatFields(d.fields).map((f) => [f.name, f.id]));
  }

  private keep(key: string, declared: ScopeHere["declared"], make: () => Scope): ScopeHere {
    let entry = this.made.get(key);
    if (!entry) {
      const scope = make();
      this.made.set(key, (entry = { scope, declared, signature: `${key}|${JSON.stringify(scope)}` }));
    }
    return entry;
  }

  private columns(lines: string): Scope {
    const f = findField(this.d.fields, lines)?.field;
    return f ? columnScope(f, this.around) : {};
  }

  private declared(ofForm: boolean, lines: string | null): ScopeHere["declared"] {
    const columns = new Map(
      flatFields((lines && findField(this.d.fields, lines)?.field.fields) || []).map((c) => [c.name, c.id]),
    );
    return (name) => {
      const field = columns.get(name) ?? this.fields.get(name);
      if (field !== undefined) return `field ${field}`;
      if (Object.hasOwn(REQUEST_SCOPE, name)) return `given ${name}`;
      const step = ofForm ? undefined : this.steps.get(name);
      return step === undefined ? null : `step ${step.id}`;
    };
  }

  of(owner: FormulaOwner["kind"], reads: Spot["reads"]): ScopeHere {
    const ofForm = owner === "field";
    const base = ofForm ? this.form : this.outer;
    const kind = ofForm ? "form" : "route";
    if (reads === undefined || reads === "route")
      return this.keep(kind, this.declared(ofForm, null), () => base);
    if ("rowsOf" in reads)
      return this.keep(`${kind} ${reads.rowsOf}`, this.declared(ofForm, reads.rowsOf), () => ({
        ...base,
        ...this.columns(reads.rowsOf),
      }));
    if ("columnsOf" in reads) {
      const outer = this.declared(ofForm, null);
      const shape = this.around.registers[reads.columnsOf];
      const columns = shape ? recordScope(shape, this.around) : {};
      return this.keep(
        `${kind} columns ${reads.columnsOf}`,
        (name) => (Object.hasOwn(columns, name) ? null : outer(name)),
        () => ({ ...base, ...columns }),
      );
    }
    const shape = this.around.registers[reads.recordOf];
    return this.keep(
      `record ${reads.recordOf}`,
      () => null,
      () => (shape ? recordScope(shape, this.around) : {}),
    );
  }
}

export interface FormulaChange {
  formula(p: FormulaPlace): string;
  template?(p: TemplatePlace): void;
}

/**
 * The definition with every formula passed through `change`: the title, starts, fields, steps, their rules, limits
 * and rungs. The only walk over formulas there is, so that checking, compiling and renaming cannot disagree.
 */
export function mapFormulas(
  d: ProcessDefinition,
  around: Surrounding,
  change: FormulaChange,
): ProcessDefinition {
  const { kinds, registers } = around;
  const scopes = new Scopes(d, around);
  const fields = new Map(flatFields(d.fields).map((f) => [f.id, f]));
  const typeOf = (w: Spot["wants"]): Type => {
    if ("t" in w) return w;
    if ("field" in w) {
      const f = fields.get(w.field);
      return f ? fieldType(f, around) : ANY;
    }
    const column = registers[w.of]?.columns.find((c) => c.id === w.column);
    return column ? fieldType(column, around) : ANY;
  };
  const placed = (owner: FormulaOwner, spot: Spot, formula: string, inText = false): string => {
    const { scope, signature, declared } = scopes.of(owner.kind, spot.reads);
    const rowsOf = columnsFirst(spot.reads);
    const ofRecord = typeof spot.reads === "object" && "recordOf" in spot.reads;
    const { place, says } = spot;
    return change.formula({
      owner,
      place,
      says,
      formula,
      type: typeOf(spot.wants),
      scope,
      declared,
      signature,
      rowsOf,
      ofRecord,
      inOrder: spot.inOrder === true,
      inText,
    });
  };
  const walkOf = (owner: FormulaOwner): FormulaWalk => {
    const walk: FormulaWalk = {
      formula: (spot, text) => (text ? (placed(owner, spot, text) as typeof text) : text),
      template: (spot, text) => {
        change.template?.({ owner, place: spot.place, says: spot.says, template: text });
        return mapTemplate(text, (f) => (f ? placed(owner, { ...spot, wants: ANY }, f, true) : f));
      },
      rule: (place, says, r) => (r ? (ruleKind(kinds, r).formulas(r, place, says, walk) as typeof r) : r),
      limit: (l) =>
        l && {
          ...l,
          ...(l.rules
            ? {
                rules: l.rules.map((r, i) => ({
                  ...r,
                  when: walk.formula(
                    {
                      place: `limit ${i}`,
                      says: `the condition of length ${i + 1} of the limit`,
                      wants: YESNO,
                    },
                    r.when,
                  ),
                })),
              }
            : {}),
          rungs: l.rungs.map((r) => ({
            ...r,
            action: rungKind(kinds, r.action).formulas(r.action, `rung ${r.id}`, walk),
          })),
        },
      asks: (s) => ({
        ...s,
        who: {
          ...s.who,
          rule: walk.rule("who", "who is asked", s.who.rule),
          ...(s.who.fallback
            ? { fallback: walk.rule("fallback", "who is asked when nobody is found", s.who.fallback) }
            : {}),
        },
        ...(s.limit ? { limit: walk.limit(s.limit) } : {}),
      }),
    };
    return walk;
  };
  const step = (s: Step): Step =>
    withLists(stepKind(kinds, s).formulas(s, walkOf({ kind: "step", id: s.id })), kinds, (_, l) =>
      l.map(step),
    );
  const field = (f: Field, lines: string | null): Field => {
    const own = mapFieldFormulas(f, around, (spot, text) =>
      placed({ kind: "field", id: f.id }, lines ? { ...spot, reads: { rowsOf: lines } } : spot, text),
    );
    return own.fields
      ? { ...own, fields: own.fields.map((c) => field(c, f.kind === "lines" ? f.id : lines)) }
      : own;
  };
  return {
    ...d,
    title: walkOf({ kind: "process", id: "" }).template(
      { place: "title", says: "the title of a request" },
      d.title,
    ),
    starts: d.starts.map((s) => startKind(kinds, s).formulas(s, walkOf({ kind: "start", id: s.id }))),
    fields: d.fields.map((f) => field(f, null)),
    route: d.route.map(step),
  };
}

/** Every formula of a definition, in reading order. */
export function formulaPlaces(d: ProcessDefinition, around: Surrounding): FormulaPlace[] {
  const out: FormulaPlace[] = [];
  mapFormulas(d, around, { formula: (p) => (out.push(p), p.formula) });
  return out;
}

/** Every text with formulas in braces. */
export function templatePlaces(d: ProcessDefinition, around: Surrounding): TemplatePlace[] {
  const out: TemplatePlace[] = [];
  mapFormulas(d, around, { formula: (p) => p.formula, template: (p) => void out.push(p) });
  return out;
}

/** Whose columns a formula reads before the names of the route. */
function columnsFirst(reads: Spot["reads"]): string | null {
  if (typeof reads !== "object") return null;
  if ("rowsOf" in reads) return reads.rowsOf;
  return "columnsOf" in reads ? reads.columnsOf : null;
}

/** A formula with one space between the words of its names, which may be written with more. */
export const spaced = (formula: string): string => formula.replace(/\s+/g, " ");
