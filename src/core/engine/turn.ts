import type { StepWork } from "@/steps/shapes";
import {
  environment,
  evaluate,
  explain,
  templateText,
  type Clause,
  type Names,
  type Value,
} from "../expression";
import { evaluateForm, type AccessOf, type FormResult } from "../form";
import type { Effect } from "./effects";
import type { EventBody, RequestEvent } from "./events";
import { evolve } from "./evolve";
import type { EngineFacts } from "./facts";
import type { CompiledFormula, CompiledRelease } from "./release";
import type { RequestState } from "./state";

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
  /** Moves left before the route counts as running in circles. */
  moves = MAX_MOVES;
  private form: { of: RequestState["data"]; result: FormResult } | null = null;

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
   * Asks something of the world.
   * @param token waits for it; absent when nobody does
   * @param again the id it was asked under before, when it is tried again
   */
  send(step: string, work: StepWork, token: string | null = null, again?: string) {
    const effect: Effect = { ...work, id: again ?? this.newId("e"), step };
    this.raise({ type: "effect asked", token, effect }, null);
    this.effects.push(effect);
  }

  /** Names beside the fields: who asked, the request itself, and what earlier steps came to. */
  extraNames(): Map<string, Value> {
    const s = this.state;
    const zone = this.facts.now.timeZoneId;
    const names = new Map<string, Value>();
    for (const [step, o] of Object.entries(s.outcomes)) {
      const name = this.release.places.get(step)?.step.name;
      if (name)
        names.set(
          name,
          new Map<string, Value>([
            ["answer", o.answer],
            ["note", o.note || null],
            ["by", o.by ? this.facts.person(o.by) : null],
            [
              "at",
              this.facts.now
                .toInstant()
                .add({ milliseconds: o.at - this.facts.at })
                .toZonedDateTimeISO(zone),
            ],
          ]),
        );
    }
    names.set("Requester", this.facts.person(s.requester));
    names.set(
      "Request",
      new Map<string, Value>([
        ["number", s.number],
        [
          "started",
          this.facts.now
            .toInstant()
            .add({ milliseconds: s.startedAt - this.facts.at })
            .toZonedDateTimeISO(zone),
        ],
      ]),
    );
    return names;
  }

  /** The form over the present data, evaluated as far as asked; kept until the data change. */
  evaluated(): FormResult {
    if (this.form?.of !== this.state.data)
      this.form = {
        of: this.state.data,
        result: evaluateForm(this.release.form, this.state.data, SEE_ALL, this.facts, this.extraNames()),
      };
    return this.form.result;
  }

  names(): Names {
    const form = this.evaluated().names;
    const extra = this.extraNames();
    return { get: (n) => form.get(n) ?? extra.get(n) };
  }

  formula(step: string, place: string, text: string): CompiledFormula | null {
    return this.release.formula(step, place, text);
  }

  value(step: string, place: string, text: string | undefined, names: Names = this.names()): Value {
    const f = text ? this.formula(step, place, text) : null;
    return f ? evaluate(f.program, environment(names, this.facts)) : null;
  }

  holds(step: string, place: string, text: string): { yes: boolean; why: Clause[] } {
    const f = this.formula(step, place, text);
    if (!f) return { yes: false, why: [] };
    const names = this.names();
    return {
      yes: evaluate(f.program, environment(names, this.facts)) === true,
      why: explain(text, f.ast, environment(names, this.facts)),
    };
  }

  text(step: string, place: string, template: string): string {
    return templateText(
      template,
      (formula) => this.value(step, place, formula),
      (name) => this.release.money.has(name),
    );
  }
}

const SEE_ALL: AccessOf = () => "see";
