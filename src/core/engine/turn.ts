import type { StepWork } from "@/steps/shapes";
import {
  environment,
  evaluate,
  explain,
  templateText,
  valueInText,
  type FormulaProblem,
  type Names,
  type Value,
} from "../expression";
import {
  evaluateForm,
  findField,
  keptAs,
  type AccessOf,
  type Field,
  type FormData,
  type FormResult,
  type TypedField,
} from "../form";
import type { Effect } from "./effects";
import type { EventBody, RequestEvent } from "./events";
import type { Held } from "../kinds";
import { evolve } from "./evolve";
import type { EngineFacts } from "./facts";
import type { CompiledFormula, CompiledRelease } from "./release";
import { changedPaths } from "./changedPaths";
import { RequestNames } from "./requestNames";
import type { RequestState } from "./state";
import type { Step } from "../route";
import { Unclear } from "./unclear";

/** Moves of one command before the route counts as running in circles. */
export const MAX_MOVES = 2000;

/**
 * The work of one command: events are folded in as they are raised, so that every later choice of the
 * same command sees their consequence and the state is the fold of the events by construction.
 */
export class Turn {
  state: RequestState;
  readonly events: RequestEvent[] = [];
  readonly effects: Effect[] = [];
  /** Tokens that are to go on, the next one last; without a step the branch `of` a step is empty. */
  readonly agenda: (
    { token: string; step: Step; effect?: string } | { token: string; step: null; of: string }
  )[] = [];
  walking = false;
  /** Moves left before the route counts as running in circles. */
  moves = MAX_MOVES;
  private form: { of: RequestState["data"]; beside: RequestNames; result: FormResult } | null = null;
  private extra: RequestNames | null = null;

  constructor(
    readonly release: CompiledRelease,
    state: RequestState,
    readonly facts: EngineFacts,
    readonly actor: string | null,
  ) {
    this.state = state;
  }

  raise(body: EventBody, by: string | null = this.actor) {
    const event = { ...body, seq: this.state.seq + 1, at: this.facts.at, by } as RequestEvent;
    this.events.push(event);
    this.state = evolve(this.state, event);
  }

  newId(prefix: string): string {
    return `${prefix}${this.state.lastId + 1}`;
  }

  /**
   * Asks something of the world. What is kept with the request is done by that.
   * @param token waits for it; absent when nobody does
   * @param again the id it was asked under before, when it is tried again
   */
  send(step: string, work: StepWork, token: string | null = null, again?: string) {
    const effect: Effect = { ...work, id: again ?? this.newId("e"), step };
    this.raise({ type: "effect asked", token, effect }, null);
    this.effects.push(effect);
    const result = this.release.kinds.steps[work.kind].kept?.(work);
    if (!result) return;
    const done = { kind: work.kind, result } as Extract<EventBody, { type: "effect done" }>;
    this.raise({ ...done, type: "effect done", effect: effect.id, step }, null);
  }

  /** Names beside the fields: who asked, the request itself, and what earlier steps came to. */
  extraNames(): RequestNames {
    if (!this.extra?.fits(this.state)) this.extra = new RequestNames(this.release, this.state, this.facts);
    return this.extra;
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
  copiesFor(step: string, set: FormData): FormData {
    const { copied, form } = this.release;
    if (copied.length === 0) return {};
    const { data } = this.state;
    const after = { ...data, ...set };
    const access: AccessOf = (id) => (Object.hasOwn(set, id) ? "edit" : "see");
    const r = evaluateForm(form, after, access, this.facts, this.extraNames(), data);
    for (const [path, why] of r.failed) {
      const { field } = findField(this.release.definition.fields, path.split("/").at(-1)!)!;
      const { all, filledIn } = form.reads.of(field.id, "worked");
      if (!field.copied || ![...filledIn].some((id) => Object.hasOwn(set, id))) continue;
      throw this.unclear(step, field.worked ?? "", !this.release.hidesAny(all), why);
    }
    return Object.fromEntries(
      copied.flatMap(({ id }) => {
        const v = r.data[id] ?? null;
        return changedPaths(after, { [id]: v }).length > 0 ? [[id, v]] : [];
      }),
    );
  }

  names(): Names {
    const form = this.evaluated().names;
    const extra = this.extraNames();
    // A field that is empty is empty, whatever step may be called like it.
    return { get: (n) => (this.release.fieldNames.has(n) ? form.get(n) : extra.get(n)) };
  }

  formula(step: string, place: string, text: string): CompiledFormula | null {
    return this.release.formula(step, place, text);
  }

  /**
   * What a formula comes to that decides something; null where there is none, or where it comes to nothing.
   * @throws Unclear where it cannot be worked out
   */
  value(step: string, place: string, text: string | undefined, names: Names = this.names()): Value {
    if (!text) return null;
    const f = this.formula(step, place, text);
    if (!f) throw this.unclear(step, text, true, "It has a mistake.");
    const notes: FormulaProblem[] = [];
    const v = evaluate(f.program, { ...environment(names, this.facts), notes });
    const failed = notes.find((n) => n.code !== "was-empty");
    if (failed) throw this.unclear(step, text, !this.release.readsHidden(f.reads), failed.message);
    return v;
  }

  /**
   * What a formula comes to as a field or column keeps it.
   * @param at the field or column; undefined where the definition names one that is not there
   * @throws Unclear where it cannot be worked out, or not be kept there
   */
  kept(
    step: string,
    place: string,
    text: string,
    at: (TypedField & Pick<Field, "name">) | undefined,
    names: Names,
  ): string | boolean | null {
    const v = this.value(step, place, text, names);
    const r = at
      ? keptAs(at, v, this.release.kinds.fields, this.facts)
      : { why: "What it is kept in is not there." };
    if (!("why" in r)) return r.kept;
    const f = this.formula(step, place, text);
    throw this.unclear(step, text, f === null || !this.release.readsHidden(f.reads), r.why);
  }

  /**
   * Whether a condition holds, and why. Over something empty it does not; `empty` says that this was the reason.
   * @throws Unclear where it cannot be told
   */
  holds(step: string, place: string, text: string): Held {
    if (!text) return { yes: false, empty: true, why: [] };
    const names = this.names();
    const v = this.value(step, place, text, names);
    const f = this.formula(step, place, text);
    const why = f ? explain(text, f.ast, f.reads, environment(names, this.facts)) : [];
    return { yes: v === true, empty: v === null, why };
  }

  text(step: string, place: string, template: string): string {
    const names = this.names();
    // A text decides nothing: what cannot be worked out is left out of it, like what is empty.
    const valueOf = (formula: string): Value => {
      const f = this.formula(step, place, formula);
      const env = environment(names, this.facts);
      return f ? valueInText(f.ast, f.program, env, (name) => this.release.sums.has(name)) : null;
    };
    return templateText(template, valueOf, (name) => this.release.money.has(name));
  }

  /** What the request is called. */
  title(): string {
    const { title, name } = this.release.definition;
    return this.text("", "title", title).trim() || name;
  }

  /** @param open whether all that is read may be seen by everybody: the reason may tell of it */
  private unclear(step: string, formula: string, open: boolean, why: string): Unclear {
    const name = this.release.places.get(step)?.step.name ?? step;
    return new Unclear({ code: "unclear", data: { step: name, formula, why: open ? why : null } });
  }
}

const SEE_ALL: AccessOf = () => "see";
