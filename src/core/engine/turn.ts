import type { StepWork } from "@/steps/shapes";
import {
  environment,
  evaluate,
  explain,
  readsInWords,
  readText,
  templateText,
  valueInText,
  type Clause,
  type FormulaProblem,
  type Names,
  type Value,
} from "../expression";
import {
  evaluateForm,
  findField,
  isKeptValue,
  keptAs,
  keptRows,
  type AccessOf,
  type Field,
  type FormData,
  type FormResult,
  type StoredRow,
  type TypedField,
} from "../form";
import type { Effect } from "./effects";
import type { EventBody, RequestEvent } from "./events";
import type { Held, StoredValue } from "../kinds";
import { evolve, replay } from "./evolve";
import type { EngineFacts } from "./facts";
import type { CompiledFormula, CompiledRelease } from "./release";
import { NeedsWhole } from "./needsWhole";
import { changedPaths } from "./changedPaths";
import { knowing } from "./outsiders";
import { formulasBehind } from "./formulasBehind";
import { ownRequest, RequestNames, ScopeNames } from "./requestNames";
import type { RequestState, Run } from "./state";
import { storedValue } from "./storedValue";
import type { Step } from "../route";
import { Unclear } from "./unclear";

/** Steps a token may go through while nobody and nothing is waited for before it counts as running in circles. */
export const MAX_MOVES = 2000;

/** Moves of all tokens together after which a command goes no further, whatever they are about. */
export const MOST_MOVED = 50_000;

/** Moves after which a command opens no more rounds: a job goes on with them. */
export const MOVES_BEFORE_PARKING = 500;
/** What asking for something inside counts as: it is carried out by the same command. */
const MOVES_OF_EFFECT = 2;

/** Where something is worked out: at which step, and in which round (null outside of all rounds). */
export interface At {
  step: string;
  scope: string | null;
}

/** Facts with the request itself, kept by what they are made of: rows are kept by the facts they were worked out with. */
const owned = new WeakMap<EngineFacts, { facts: EngineFacts; turn: Turn }>();

/** The request may be linked to before anybody but itself knows of it, and a sample never is known. */
function withOwn(facts: EngineFacts, turn: Turn): EngineFacts {
  const known = owned.get(facts);
  if (known) {
    known.turn = turn;
    return known.facts;
  }
  const made = { facts, turn };
  made.facts = {
    ...facts,
    ...knowing(facts, () => made.turn.state),
    request(number) {
      const { state, release } = made.turn;
      return facts.request(number) ?? (number === state.number ? ownRequest(release, state, facts) : null);
    },
  };
  owned.set(facts, made);
  return made.facts;
}

/**
 * The work of one command: events are folded in as they are raised, so that every later choice of the
 * same command sees their consequence and the state is the fold of the events by construction.
 */
export class Turn {
  state: RequestState;
  readonly events: RequestEvent[] = [];
  readonly effects: Effect[] = [];
  /** Tokens that are to go on, the next one last; without a step the branch `of` a step is empty. */
  readonly agenda: Due[] = [];
  walking = false;
  /** How many procedures it stands in. */
  depth = 0;
  /** The turn around that of a procedure, and the call; null for the request's own. */
  outer: { turn: Turn; call: string } | null = null;
  /** Sleeps that have ended because what they waited for has come. */
  woken = 0;
  /** Steps since anybody was waited for, when the request or procedure ended. */
  endedAfter = 0;
  private form: { of: RequestState["data"]; beside: RequestNames; result: FormResult } | null = null;
  private extra: RequestNames | null = null;
  private readonly scopes = new Map<string | null, ScopeNames>();

  readonly facts: EngineFacts;

  /** @param moved how far the same command went already: it may be decided in several parts */
  constructor(
    readonly release: CompiledRelease,
    state: RequestState,
    facts: EngineFacts,
    readonly actor: string | null,
    public moved = 0,
  ) {
    this.state = state;
    this.facts = withOwn(facts, this);
  }

  /** @param scope the round in which it happened, where the event does not tell it by its token, visit or task */
  raise(body: EventBody, by: string | null = this.actor, scope = scopeOf(this.state, body)) {
    const event = this.event(body, this.state.seq + 1, by, scope);
    this.events.push(event);
    this.state = evolve(this.state, event);
  }

  /** Raises many with who did each. */
  raiseAs(bodies: readonly EventBody[], by: readonly (string | null)[], scope: string | null) {
    const { seq } = this.state;
    const events = bodies.map((b, i) => this.event(b, seq + 1 + i, by[i] ?? null, scope));
    this.events.push(...events);
    this.state = replay(events, this.state);
  }

  /** Raises many that say nothing of each other. */
  raiseAll(bodies: readonly EventBody[], by: string | null) {
    const { seq } = this.state;
    const events = bodies.map((b, i) => this.event(b, seq + 1 + i, by, scopeOf(this.state, b)));
    this.events.push(...events);
    this.state = replay(events, this.state);
  }

  private event(body: EventBody, seq: number, by: string | null, scope: string | null): RequestEvent {
    return { ...body, seq, at: this.facts.at, by, ...(scope === null ? {} : { scope }) } as RequestEvent;
  }

  /** A step as a token sees it. */
  at(token: string, step: string): At {
    const t = this.state.tokens[token];
    if (!t) throw new Error(`there is no token "${token}"`);
    return { step, scope: t.scope ?? null };
  }

  /**
   * The state, where everything of it may matter.
   * @throws NeedsWhole where only a part was read
   */
  whole(): RequestState {
    if (this.state.partial) throw new NeedsWhole();
    return this.state;
  }

  /** @param after how many others are given before it */
  newId(prefix: string, after = 0): string {
    return `${prefix}${this.state.lastId + 1 + after}`;
  }

  /**
   * Asks something of the world. What is kept with the request is done by that.
   * @param token waits for it; absent when nobody does
   * @param again the id it was asked under before, when it is tried again
   */
  send({ step, scope }: At, work: StepWork, token: string | null = null, again?: string) {
    const in_ = scope === null ? {} : { scope };
    const effect: Effect = { ...work, id: again ?? this.newId("e"), step, ...in_ };
    this.moved += MOVES_OF_EFFECT;
    this.raise({ type: "effect asked", token, effect }, null, scope);
    this.effects.push(effect);
    const result = this.release.kinds.steps[work.kind].kept?.(work);
    if (!result) return;
    const done = { kind: work.kind, result } as Extract<EventBody, { type: "effect done" }>;
    this.raise({ ...done, type: "effect done", effect: effect.id, step }, null, scope);
  }

  /** Names beside the fields of a form: who asked, and the request itself. */
  extraNames(): RequestNames {
    if (!this.extra?.fits(this.state)) this.extra = new RequestNames(this.state, this.facts);
    return this.extra;
  }

  private scopeNames(scope: string | null): ScopeNames {
    let names = this.scopes.get(scope);
    if (names?.fits(this.state)) return names;
    const form = () => this.evaluated().names;
    names = new ScopeNames(this.release, this.state, this.facts, scope, form);
    this.scopes.set(scope, names);
    return names;
  }

  /** The form over the present data, evaluated as far as asked; kept until what it reads changes. */
  evaluated(): FormResult {
    const { data } = this.state;
    const extra = this.extraNames();
    if (this.form?.of !== data || this.form.beside !== extra)
      this.form = {
        of: data,
        beside: extra,
        result: evaluateForm(this.release.form, data, SEE_ALL, this.facts, extra),
      };
    return this.form.result;
  }

  /**
   * What is copied anew because a step sets what it is copied from.
   * @throws Unclear where it cannot be worked out
   */
  copiesFor(step: At, set: FormData): FormData {
    const { copied, form } = this.release;
    if (copied.length === 0) return {};
    const { data } = this.state;
    const after = { ...data, ...set };
    const filled = filledIn(data, set);
    const access: AccessOf = (id) => (filled.has(id) ? "edit" : "see");
    const r = evaluateForm(form, after, access, this.facts, this.extraNames(), data);
    for (const [path, why] of r.failed) {
      const { field } = findField(this.release.definition.fields, path.split("/").at(-1)!)!;
      const { all, filledIn: sources } = form.reads.of(field.id, "worked");
      if (!isKeptValue(field) || ![...sources].some((id) => filled.has(id))) continue;
      throw this.unclear(step.step, field.worked ?? "", !this.release.hidesAny(all), why);
    }
    return Object.fromEntries(
      copied.flatMap(({ id }) => {
        const v = r.data[id] ?? null;
        return changedPaths(after, { [id]: v }).length > 0 ? [[id, v]] : [];
      }),
    );
  }

  /**
   * The names of a scope, in the order in which the resolver finds them: those of rounds, fields, what every request has,
   * and what steps came to.
   */
  names(scope: string | null): Names {
    const form = this.evaluated().names;
    const extra = this.extraNames();
    const own = this.scopeNames(scope);
    return {
      get: (n) => {
        const ofRound = own.ofRound(n);
        if (ofRound !== undefined) return ofRound;
        // A field that is empty is empty, whatever step may be called like it.
        if (this.release.fieldNames.has(n)) return form.get(n);
        return extra.get(n) ?? own.ofStep(n);
      },
    };
  }

  formula(step: string, place: string, text: string): CompiledFormula | null {
    return this.release.formula(step, place, text);
  }

  /**
   * A value as it can be kept and read again later.
   * @throws Unclear where it cannot
   */
  stored(at: At, place: string, text: string, v: Value): StoredValue {
    const s = storedValue(v);
    if (s) return s.kept;
    const f = this.formula(at.step, place, text);
    const open = f === null || !this.hides(f);
    throw this.unclear(
      at.step,
      text,
      open,
      "What it comes to cannot be kept: it is a function, or too much.",
    );
  }

  /**
   * What a formula comes to that decides something; null where there is none, or where it comes to nothing.
   * @throws Unclear where it cannot be worked out
   */
  value(at: At, place: string, text: string | undefined, names: Names = this.names(at.scope)): Value {
    if (!text) return null;
    const { step } = at;
    const f = this.formula(step, place, text);
    if (!f) throw this.unclear(step, text, true, "It has a mistake.");
    const notes: FormulaProblem[] = [];
    const v = evaluate(f.program, { ...environment(names, this.facts), notes });
    const failed = notes.find((n) => n.code !== "was-empty");
    if (failed) throw this.unclear(step, text, !this.hides(f), failed.message);
    return v;
  }

  /**
   * What a formula comes to as a field or column keeps it.
   * @param field the field or column; undefined where the definition names one that is not there
   * @throws Unclear where it cannot be worked out, or not be kept there
   */
  kept(
    at: At,
    place: string,
    text: string,
    field: (TypedField & Pick<Field, "name">) | undefined,
    names: Names,
  ): string | boolean | null {
    const v = this.value(at, place, text, names);
    const r = field
      ? keptAs(field, v, this.release.kinds.fields, this.facts)
      : { why: "What it is kept in is not there." };
    if (!("why" in r)) return r.kept;
    throw this.unfit(at.step, place, text, r.why);
  }

  /** For a value that can be worked out and is of no use where it is wanted, with the reason as far as everybody may know it. */
  unfit(step: string, place: string, text: string, why: string): Unclear {
    const f = this.formula(step, place, text);
    return this.unclear(step, text, f === null || !this.hides(f), why);
  }

  /**
   * The rows a list comes to as line items keep them.
   * @throws Unclear where it cannot be worked out, or not be kept there
   */
  keptRows(at: At, place: string, text: string, lines: Field, names: Names): StoredRow[] {
    const r = keptRows(lines, this.value(at, place, text, names), this.release.kinds.fields, this.facts);
    if (!("why" in r)) return r.kept;
    throw this.unfit(at.step, place, text, r.why);
  }

  /**
   * Whether a condition holds, and why. Over something empty it does not; `empty` says that this was the reason.
   * @throws Unclear where it cannot be told
   */
  holds(at: At, place: string, text: string): Held {
    if (!text) return { yes: false, empty: true, why: [] };
    const v = this.value(at, place, text);
    return { yes: v === true, empty: v === null, why: this.whyOf(at, place, text) };
  }

  /** Why a formula came to what it did, clause by clause. */
  whyOf(at: At, place: string, text: string): Clause[] {
    const f = this.formula(at.step, place, text);
    const clauses = f ? explain(text, f.ast, f.reads, environment(this.names(at.scope), this.facts)) : [];
    // Whoever may not see what a step has read is not shown what came of it.
    const behind = f ? formulasBehind(this.release, f).slice(1) : [];
    const reads = behind.flatMap((g) => readsInWords(g.ast, g.reads));
    return reads.length === 0
      ? clauses
      : clauses.map((c) => ({ ...c, reads: [...new Set([...c.reads, ...reads])] }));
  }

  text(at: At, place: string, template: string, names: Names = this.names(at.scope)): string {
    const valueOf = (formula: string): Value => this.readIn(at, place, formula, names);
    return templateText(template, valueOf, (name) => this.release.money.has(name));
  }

  /**
   * One formula as it reads in a text.
   * @param as what a thing of a list is called, whose columns it may read
   */
  words(at: At, place: string, formula: string, names: Names, as: string | null): string {
    const { money, moneyColumns } = this.release;
    const column = as !== null && formula.startsWith(`${as}.`) ? formula.slice(as.length + 1).trim() : null;
    const isMoney = column === null ? money.has(formula.trim()) : moneyColumns.has(column);
    return readText(this.readIn(at, place, formula, names), isMoney);
  }

  /** A text decides nothing: what cannot be worked out is left out of it, like what is empty. */
  readIn({ step }: At, place: string, formula: string, names: Names): Value {
    const f = this.formula(step, place, formula);
    const env = environment(names, this.facts);
    return f ? valueInText(f.ast, f.program, env, (name) => this.release.sums.has(name)) : null;
  }

  /** What the request is called. */
  title(): string {
    const { title, name } = this.release.definition;
    return this.text(OF_PROCESS, "title", title).trim() || name;
  }

  /** Whether a formula reads, on whatever way, something that is hidden from somebody: a field, or a column of a register. */
  hides(f: Pick<CompiledFormula, "ast" | "reads" | "steps">): boolean {
    return formulasBehind(this.release, f).some((g) => this.hidesItself(g));
  }

  private hidesItself(f: Pick<CompiledFormula, "ast" | "reads">): boolean {
    const { release, facts } = this;
    if (release.readsHidden(f.reads)) return true;
    const ofRecords = (reads: readonly string[] | undefined) =>
      reads?.some((r) => facts.hidesOfRecords(r)) ?? false;
    if (ofRecords(readsInWords(f.ast, f.reads))) return true;
    return [...release.form.reads.ofRoute(f.reads).all].some((id) =>
      ofRecords(release.prepared.records?.[id]?.worked),
    );
  }

  /** @param open whether all that is read may be seen by everybody: the reason may tell of it */
  private unclear(step: string, formula: string, open: boolean, why: string): Unclear {
    const { places, letters, ladders, documents } = this.release;
    const text = letters.get(step) ?? ladders.get(step) ?? documents.get(step);
    const name = places.get(step)?.step.name ?? text?.name ?? step;
    return new Unclear({ code: "unclear", data: { step: name, formula, why: open ? why : null } });
  }
}

/** Fields and columns that setting these values fills in. */
function filledIn(before: FormData, set: FormData): ReadonlySet<string> {
  const out = new Set(Object.keys(set));
  for (const [id, rows] of Object.entries(set)) {
    if (!Array.isArray(rows)) continue;
    const old = before[id];
    const was = new Map((Array.isArray(old) ? old : []).map((r) => [r["#"], r]));
    for (const r of rows)
      for (const [column, v] of Object.entries(r))
        if ((was.get(r["#"])?.[column] ?? null) !== v) out.add(column);
  }
  return out;
}

const SEE_ALL: AccessOf = () => "see";
const OF_PROCESS: At = { step: "", scope: null };

/**
 * What is to be gone on with: a token on a step, the end of an empty list `of` a step, a run that may open another
 * round, or the step behind a run that has ended.
 */
export type Due =
  | { token: string; step: Step; effect?: string }
  | { token: string; step: null; of: string }
  | { run: string }
  | { of: Run; left: readonly StoredValue[] };

/** The round an event happens in, as its token, visit or task tells. */
function scopeOf(s: RequestState, e: EventBody): string | null {
  if (e.type === "visit opened") return e.visit.scope ?? null;
  if (e.type === "task opened" || e.type === "decider added" || e.type === "question asked")
    return e.task.scope ?? null;
  if (e.type === "timer set") return (s.visits[e.timer.visit] ?? s.sleeps[e.timer.visit])?.scope ?? null;
  if (e.type === "fell asleep") return e.sleep.scope ?? null;
  if (e.type === "round opened") return e.token;
  if (e.type === "run opened") return e.run.scope;
  if (e.type === "call opened") return e.call.scope ?? null;
  if ("call" in e) return s.calls[e.call]?.scope ?? null;
  if ("run" in e && e.type !== "round ended") return s.runs[e.run]?.scope ?? null;
  if ("token" in e && e.token !== null) return s.tokens[e.token]?.scope ?? null;
  if ("visit" in e) return s.visits[e.visit]?.scope ?? null;
  if ("task" in e && e.task !== undefined) return s.tasks[e.task]?.scope ?? null;
  return null;
}
