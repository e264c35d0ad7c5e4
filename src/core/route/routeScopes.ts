import { isReadByName, stepKind, type RoundName, type RoundTypes, type Spot } from "../kinds";
import {
  ANY,
  checkFormula,
  context,
  DATETIME,
  FILE,
  INPUT,
  listOf,
  nameMistake,
  NUMBER,
  PERSON,
  TEXT,
  type ContextType,
  type Scope,
  type Type,
} from "../expression";
import {
  columnScope,
  findField,
  flatFields,
  formScope,
  MAIL_SCOPE,
  recordScope,
  recordType,
  REQUEST_SCOPE,
  overRecordsScope,
  rowType,
  scopeOfRecords,
  type RegisterShape,
} from "../form";
import { ITEM, ITEM_NUMBER } from "../document";
import { ruleScope } from "../records";
import type { ProcessDefinition, Step } from "./definition";
import type { FormulaOwner, Surrounding } from "./surrounding";
import { ladderOf } from "./laddersUsed";
import { lettersOf } from "./lettersUsed";
import { givenType } from "./portType";
import { withLists } from "./tree";

/** What formulas of a letter, a ladder or a template are found by in the place of a step's id; no id has a space. */
export const textOwner = ({ kind, id }: { kind: "letter" | "ladder" | "document"; id: string }): string =>
  `${kind} ${id}`;

const ANSWER = { answer: TEXT, note: TEXT, by: PERSON, at: DATETIME };
/** What was answered each time a step was decided, not only the last: by this name of what it came to. */
export const ALL_ANSWERS = "all answers";
const ANSWERS = listOf(context(ANSWER));
/** What a step came to, and what each of those asked has said. */
const CAME_TO = { ...ANSWER, answers: ANSWERS, [ALL_ANSWERS]: ANSWERS };
const OUTCOME: Type = context(CAME_TO);
/** By this name what a step came to has the document that was signed there. */
export const SIGNED_DOCUMENT = "document";
const WITH_DOCUMENT: Type = context({ ...CAME_TO, [SIGNED_DOCUMENT]: FILE });

/** The names a formula may read at one place. */
export interface ScopeHere {
  scope: Scope;
  /** The same for all places that read the same names. */
  signature: string;
  /** Which thing a name means here: `field f3` (also a column), `step s2`, `given Requester`, `round s4 item`. */
  declared(name: string): string | null;
  /** The same of what is read by way of the form (`FORM`); absent where nothing is. */
  ofForm?(name: string): string | null;
}

/** The names that stand in a list of steps: those of the route, or of the rounds of one step. */
interface Level {
  /** The step whose rounds they are of; null for the route. */
  of: Step | null;
  outer: Level | null;
  /** Steps that formulas may read by name; of two of one name the first. */
  steps: Map<string, Step>;
}

/**
 * Which names exist where: the one answer for Workshop, checks and engine. A step in rounds reads the names of its round
 * first, then those of the rounds around it, then fields and what every request has, then what steps came to, those of
 * its own round first. What a step in a round came to is known in that round alone.
 */
export class RouteScopes {
  private readonly levels = new Map<string, Level>();
  private readonly inside = new Map<string, Level>();
  /** Of letters, ladders and templates, by owner (`textOwner`). */
  private readonly texts = new Map<string, Level>();
  private readonly top: Level = { of: null, outer: null, steps: new Map() };
  private readonly made = new Map<string, ScopeHere>();
  private readonly scopes = new Map<Level, Scope>();
  private readonly rounds = new Map<Step, readonly RoundName[]>();
  private readonly given = new Map<Step, Type>();
  /** Reading order, a step behind those it holds. */
  private readonly order = new Map<Step, number>();
  private readonly form: Scope;
  private readonly fields: ReadonlyMap<string, string>;

  constructor(
    private readonly d: ProcessDefinition,
    private readonly around: Surrounding,
  ) {
    this.form = { ...REQUEST_SCOPE, ...formScope(d.fields, around) };
    this.fields = new Map(flatFields(d.fields).map((f) => [f.name, f.id]));
    const sent = new Map<string, Level[]>();
    const note = (owner: string, level: Level) => sent.set(owner, [...(sent.get(owner) ?? []), level]);
    const visit = (steps: readonly Step[], level: Level) => {
      for (const s of steps) {
        this.levels.set(s.id, level);
        for (const l of lettersOf(s, d.ladders, around.kinds))
          note(textOwner({ kind: "letter", id: l }), level);
        const ladder = ladderOf(s, around.kinds);
        if (ladder !== undefined) note(textOwner({ kind: "ladder", id: ladder }), level);
        for (const x of stepKind(around.kinds, s).documents?.(s) ?? [])
          note(textOwner({ kind: "document", id: x }), level);
        if (isReadByName(around.kinds, s) && nameMistake(s.name) === null && !level.steps.has(s.name))
          level.steps.set(s.name, s);
        const rounds = stepKind(around.kinds, s).rounds !== undefined;
        const inner = rounds ? { of: s, outer: level, steps: new Map<string, Step>() } : level;
        if (rounds) this.inside.set(s.id, inner);
        withLists(s, around.kinds, (_, l) => (visit(l, inner), l));
        this.order.set(s, this.order.size);
      }
    };
    visit(d.route, this.top);
    const levelFor = (owner: string) => common(sent.get(owner) ?? [], this.top);
    for (const { id, byHand, closes } of d.letters ?? []) {
      const owner = textOwner({ kind: "letter", id });
      this.texts.set(owner, byHand || closes ? this.top : levelFor(owner));
    }
    for (const { id } of d.ladders ?? []) {
      const owner = textOwner({ kind: "ladder", id });
      this.texts.set(owner, levelFor(owner));
    }
    for (const { id } of d.documents ?? []) {
      const owner = textOwner({ kind: "document", id });
      this.texts.set(owner, levelFor(owner));
    }
  }

  /** The names formulas of a step may read; of the route as a whole where the step is not there or not said. */
  at(step: string | null): Scope {
    return this.scopeOf(this.level(step));
  }

  private level(step: string | null): Level {
    return (step === null ? undefined : this.levels.get(step)) ?? this.top;
  }

  /**
   * @param before while the type of what this step gives is found: what steps behind it give is of any kind, so that
   *   types are found in reading order and never go round
   */
  private scopeOf(level: Level, before: Step | null = null): Scope {
    const known = before ? undefined : this.scopes.get(level);
    if (known) return known;
    const last = before ? this.order.get(before)! : Infinity;
    const steps: Record<string, Type> = {};
    for (let l: Level | null = level; l; l = l.outer)
      for (const [name, s] of l.steps)
        // What rounds leave behind is not there while they are under way.
        if (!Object.hasOwn(steps, name) && !isAround(level, s))
          steps[name] = this.order.get(s)! < last ? this.gives(s) : ANY;
    const scope: Scope = { ...steps, ...this.form, ...this.roundNames(level) };
    if (!before) this.scopes.set(level, scope);
    return scope;
  }

  private roundNames(level: Level): Record<string, Type> {
    if (level.of === null || level.outer === null) return {};
    const own = Object.fromEntries(this.namesOf(level.of, level.outer).map((n) => [n.name, n.type]));
    return { ...this.roundNames(level.outer), ...own };
  }

  private typesFor(s: Step, outer: Level): RoundTypes {
    return {
      row: (lines) => {
        const f = findField(this.d.fields, lines)?.field;
        return f ? rowType(f, this.around) : ANY;
      },
      of: (formula) => checkFormula(formula, this.scopeOf(outer, s)).type,
      ofItem: (formula, names) => checkFormula(formula, { ...this.scopeOf(outer, s), ...names }).type,
    };
  }

  private namesOf(s: Step, outer: Level): readonly RoundName[] {
    const known = this.rounds.get(s);
    if (known) return known;
    const names = stepKind(this.around.kinds, s).rounds?.names(s, this.typesFor(s, outer)) ?? [];
    this.rounds.set(s, names);
    return names;
  }

  /** The names of each thing rounds may go over, while it is found out which of them do. */
  private itemNames(s: Step, outer: Level): readonly RoundName[] {
    return stepKind(this.around.kinds, s).rounds?.choosing(s, this.typesFor(s, outer)) ?? [];
  }

  /** What formulas read by the name of a step. */
  private gives(s: Step): Type {
    const known = this.given.get(s);
    if (known) return known;
    const { gives, asks } = stepKind(this.around.kinds, s);
    if (!gives) return asks?.signs?.(s) ? WITH_DOCUMENT : OUTCOME;
    const type = gives(s, {
      record: (register) => recordType(register, this.around),
      port: (p) => givenType(p, this.around),
      here: (formula) => checkFormula(formula, this.scopeOf(this.level(s.id), s)).type,
      inRounds: (formula) => {
        const inner = this.inside.get(s.id);
        return inner ? checkFormula(formula, this.scopeOf(inner, s)).type : ANY;
      },
    });
    this.given.set(s, type);
    return type;
  }

  /** @param ofForm whether a field's formula reads it, which knows nothing of steps */
  private declared(level: Level, ofForm: boolean, lines: string | null): ScopeHere["declared"] {
    const columns = new Map(
      flatFields((lines && findField(this.d.fields, lines)?.field.fields) || []).map((c) => [c.name, c.id]),
    );
    return (name) => {
      const column = columns.get(name);
      if (column !== undefined) return `field ${column}`;
      for (let l: Level | null = ofForm ? null : level; l?.of && l.outer; l = l.outer) {
        const own = this.namesOf(l.of, l.outer).find((n) => n.name === name);
        if (own) return `round ${l.of.id} ${own.role}`;
      }
      const field = this.fields.get(name);
      if (field !== undefined) return `field ${field}`;
      if (Object.hasOwn(REQUEST_SCOPE, name)) return `given ${name}`;
      for (let l: Level | null = ofForm ? null : level; l; l = l.outer) {
        const step = l.steps.get(name);
        if (step && !isAround(level, step)) return `step ${step.id}`;
      }
      return null;
    };
  }

  /**
   * The step whose rounds' names a letter, a ladder or a template reads, besides those around them; null where it reads none of any
   * round. @param owner as `textOwner` gives it
   */
  roundsOf(owner: string): string | null {
    return this.texts.get(owner)?.of?.id ?? null;
  }

  private levelOf({ kind, id }: FormulaOwner): Level {
    switch (kind) {
      case "letter":
      case "ladder":
      case "document":
        return this.texts.get(textOwner({ kind, id })) ?? this.top;
      case "step":
        return this.level(id);
      case "field":
      case "start":
      case "process":
        return this.top;
    }
  }

  /** The names read by a formula of some thing, as the place says. */
  of(owner: FormulaOwner, reads: Spot["reads"]): ScopeHere {
    const ofForm = owner.kind === "field" || reads === "form";
    const level = this.levelOf(owner);
    const inner = (owner.kind === "step" ? this.inside.get(owner.id) : undefined) ?? level;
    if (reads === "rounds")
      return this.keep(`rounds ${owner.id}`, this.declared(inner, false, null), () => this.scopeOf(inner));
    if (reads === "items") {
      const names = inner.of && inner.outer ? this.itemNames(inner.of, inner.outer) : [];
      const outer = this.declared(level, false, null);
      const own = (name: string) => names.find((n) => n.name === name);
      return this.keep(
        `items ${owner.id}`,
        (name) => (own(name) ? `round ${owner.id} ${own(name)!.role}` : outer(name)),
        () => ({ ...this.scopeOf(level), ...Object.fromEntries(names.map((n) => [n.name, n.type])) }),
      );
    }
    const base = () => (ofForm ? this.form : this.scopeOf(level));
    const kind = ofForm ? "form" : `route ${level.of?.id ?? ""}`;
    if (reads === undefined || reads === "route" || reads === "form")
      return this.keep(kind, this.declared(level, ofForm, null), base);
    if (reads === "mail")
      return this.keep(
        "mail",
        (name) => (Object.hasOwn(MAIL_SCOPE, name) ? `given ${name}` : null),
        () => MAIL_SCOPE,
      );
    if ("rowsOf" in reads && !("columnsOf" in reads)) {
      const lines = findField(this.d.fields, reads.rowsOf)?.field;
      return this.keep(`${kind} rows ${reads.rowsOf}`, this.declared(level, ofForm, reads.rowsOf), () => ({
        ...base(),
        ...(lines ? columnScope(lines, this.around) : {}),
      }));
    }
    if ("columnsOf" in reads) {
      const { columnsOf, rowsOf } = reads;
      const outer = this.declared(level, ofForm, rowsOf ?? null);
      const shape = this.around.registers[columnsOf];
      const lines = rowsOf === undefined ? undefined : findField(this.d.fields, rowsOf)?.field;
      const columns = ofForm
        ? overRecordsScope(columnsOf, this.d.fields, lines, this.around)
        : scopeOfRecords(columnsOf, this.around);
      return this.keep(
        `${kind} columns ${columnsOf}${rowsOf === undefined ? "" : ` rows ${rowsOf}`}`,
        (name) => (Object.hasOwn(columns, name) ? columnCalled(shape, name) : outer(name)),
        () => ({ ...base(), ...(lines ? columnScope(lines, this.around) : {}), ...columns }),
        ofForm ? outer : undefined,
      );
    }
    if ("eachOf" in reads) {
      const outer = this.declared(level, ofForm, null);
      return this.keep(
        `${kind} each ${reads.as} ${reads.eachOf}`,
        (name) => (name === reads.as ? null : outer(name)),
        () => {
          const { type } = checkFormula(reads.eachOf, base());
          return { ...base(), [reads.as]: type.t === "list" ? type.of : type };
        },
      );
    }
    if ("tests" in reads)
      return this.keep(`${kind} tests ${reads.tests}`, this.declared(level, ofForm, null), () => ({
        ...base(),
        [INPUT]: checkFormula(reads.tests, base()).type,
      }));
    if ("eachIn" in reads) return this.inLists(reads.eachIn, kind, base, this.declared(level, ofForm, null));
    const shape = this.around.registers[reads.recordOf];
    const scope = reads.before ? ruleScope : recordScope;
    return this.keep(
      `record ${reads.recordOf}${reads.before ? " before" : ""}`,
      (name) => columnCalled(shape, name),
      () => (shape ? scope(shape, this.around) : {}),
    );
  }

  /** What is known of each thing of lists within one another, before the names around. */
  private inLists(
    lists: readonly string[],
    kind: string,
    base: () => Scope,
    outer: ScopeHere["declared"],
  ): ScopeHere {
    const items: Type[] = [];
    const make = (): Scope =>
      lists.reduce((scope, formula): Scope => {
        const { type } = checkFormula(formula, scope);
        const item = type.t === "list" ? type.of : type;
        items.push(item);
        const entries = item.t === "context" ? item.fields : {};
        return { ...scope, [ITEM]: item, [ITEM_NUMBER]: NUMBER, ...entries };
      }, base());
    const meant = (name: string, deep: number): string | null => {
      const item = items[deep];
      if (!item) return outer(name);
      if (item.t === "context" && Object.hasOwn(item.fields, name)) return this.entryCalled(item, name);
      return name === ITEM || name === ITEM_NUMBER ? null : meant(name, deep - 1);
    };
    return this.keep(`${kind} lists ${JSON.stringify(lists)}`, (name) => meant(name, items.length - 1), make);
  }

  /** Which column an entry of a row or a record is; null for none. */
  private entryCalled(item: ContextType, name: string): string | null {
    const lines = item.rows === undefined ? undefined : findField(this.d.fields, item.rows)?.field;
    if (lines) {
      const column = flatFields(lines.fields ?? []).find((c) => c.name === name);
      return column ? `field ${column.id}` : null;
    }
    return item.what === undefined ? null : columnCalled(this.around.registers[item.what], name);
  }

  private keep(
    key: string,
    declared: ScopeHere["declared"],
    make: () => Scope,
    ofForm?: ScopeHere["ofForm"],
  ): ScopeHere {
    let entry = this.made.get(key);
    if (!entry) {
      const scope = make();
      this.made.set(
        key,
        (entry = {
          scope,
          declared,
          signature: `${key}|${JSON.stringify(scope)}`,
          ...(ofForm ? { ofForm } : {}),
        }),
      );
    }
    return entry;
  }
}

/** The innermost level in which all of these stand: a letter reads what is known wherever it is sent from. */
function common(levels: readonly Level[], top: Level): Level {
  const around = (level: Level): Level[] => {
    const out: Level[] = [];
    for (let l: Level | null = level; l; l = l.outer) out.push(l);
    return out;
  };
  const [first, ...rest] = levels.map(around);
  return first?.find((l) => rest.every((others) => others.includes(l))) ?? top;
}

/** Which column of a register a name means, told by its id; null for none. */
function columnCalled(shape: RegisterShape | undefined, name: string): string | null {
  const column = shape?.columns.find((c) => c.name === name);
  return shape && column ? `column ${shape.key} ${column.id}` : null;
}

/** Whether a level is of the rounds of this step, or stands in them. */
function isAround(level: Level, s: Step): boolean {
  for (let l: Level | null = level; l; l = l.outer) if (l.of === s) return true;
  return false;
}
