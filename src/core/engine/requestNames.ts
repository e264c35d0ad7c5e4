import { Entity, isList, type ContextValue, type Names, type Value } from "../expression";
import { findField, partyValue, sameParty } from "../form";
import { ANY_TYPES, stepKind } from "../kinds";
import { ALL_ANSWERS, SIGNED_DOCUMENT, type Step } from "../route";
import { NeedsWhole } from "./needsWhole";
import { answersGiven } from "./answersGiven";
import type { EngineFacts } from "./facts";
import type { CompiledRelease } from "./release";
import type { Outcome, RequestState, Scope, ScopeValues } from "./state";
import { valueOf } from "./storedValue";

/** Steps by name; two of one name that a formula reads are an error before a release. */
const stepsByName = new WeakMap<CompiledRelease, ReadonlyMap<string, readonly string[]>>();
function stepsOf(release: CompiledRelease): ReadonlyMap<string, readonly string[]> {
  const known = stepsByName.get(release);
  if (known) return known;
  const names = new Map<string, string[]>();
  for (const [id, { step }] of release.places) names.set(step.name, [...(names.get(step.name) ?? []), id]);
  stepsByName.set(release, names);
  return names;
}

/** What every request has beside its form: who asked, and the request itself. */
export class RequestNames implements Names {
  constructor(
    private readonly state: Pick<RequestState, "requester" | "number" | "startedAt">,
    private readonly facts: EngineFacts,
  ) {}

  fits(s: RequestState): boolean {
    const t = this.state;
    return sameParty(s.requester, t.requester) && s.number === t.number && s.startedAt === t.startedAt;
  }

  get(name: string): Value | undefined {
    const s = this.state;
    if (name === "Requester") return partyValue(s.requester, (id) => this.facts.person(id));
    if (name === "Request")
      return new Entity("request", s.number, [
        ["number", s.number],
        ["name", s.number],
        ["started", moment(this.facts, s.startedAt)],
      ]);
    return undefined;
  }
}

/** A request as a link to it reads it from within. */
export const ownRequest = (release: CompiledRelease, s: RequestState, facts: EngineFacts): ContextValue =>
  new Entity("request", s.number, [
    ["number", s.number],
    ["name", s.number],
    ["process", release.definition.name],
    ["status", s.status === "new" ? "under way" : s.status],
    ["result", s.result?.name ?? null],
    ["started", moment(facts, s.startedAt)],
    ["ended", null],
  ]);

/** A moment in the zone of the facts. */
export const moment = ({ now, at }: EngineFacts, ms: number) =>
  now
    .toInstant()
    .add({ milliseconds: ms - at })
    .toZonedDateTimeISO(now.timeZoneId);

/**
 * The names of one scope: those of its round and of the rounds around it, and what steps came to there. Each is worked
 * out when it is first asked for, because most formulas read none of them.
 */
export class ScopeNames {
  private readonly rounds = new Map<string, Value>();
  private readonly steps = new Map<string, Value>();

  /** @param form values of fields, for rows that rounds go over */
  constructor(
    private readonly release: CompiledRelease,
    private readonly state: RequestState,
    private readonly facts: EngineFacts,
    private readonly scope: string | null,
    private readonly form: () => Names,
  ) {}

  /** Whether another state of the request gives the same names. */
  fits(s: RequestState): boolean {
    const t = this.state;
    return (
      s.outcomes === t.outcomes &&
      s.kept === t.kept &&
      s.tasks === t.tasks &&
      s.visits === t.visits &&
      s.data === t.data &&
      s.startedAt === t.startedAt &&
      (this.scope === null || (s.scopes === t.scopes && s.runs === t.runs))
    );
  }

  /** The scopes from the inside out, the request's own (null) last. */
  private *around(): Generator<Scope | null> {
    for (let id = this.scope; id !== null;) {
      const scope: Scope | undefined = this.state.scopes[id];
      if (!scope) throw new Error(`there is no round "${id}"`);
      yield scope;
      id = scope.parent;
    }
    yield null;
  }

  /** A name of the rounds. */
  ofRound(name: string): Value | undefined {
    if (this.scope === null) return undefined;
    const known = this.rounds.get(name);
    if (known !== undefined) return known;
    for (const scope of this.around()) {
      const value = scope && this.roundValue(scope, name);
      if (value !== null && value !== undefined) {
        this.rounds.set(name, value.is);
        return value.is;
      }
    }
    return undefined;
  }

  private roundValue(scope: Scope, name: string): { is: Value } | null {
    const run = this.state.runs[scope.run];
    const step = run && this.release.places.get(run.step)?.step;
    const { rounds } = step ? stepKind(this.release.kinds, step) : {};
    if (!run || !step || !rounds) return null;
    const role = roleOf(this.release, step, name);
    if (role === undefined) return null;
    const { items } = run;
    const number = scope.index + 1;
    const item = typeof items === "number" ? null : this.valueOf(items[scope.index] ?? null);
    const of = typeof items === "number" ? items : items.length;
    return { is: rounds.value(step, role, { item, number, of }) };
  }

  private valueOf(stored: Parameters<typeof valueOf>[0]): Value {
    return valueOf(stored, this.facts, (lines, id) => this.row(lines, id));
  }

  private row(lines: string, id: string): Value {
    const rows = this.state.data[lines];
    const at = Array.isArray(rows) ? rows.findIndex((r) => r["#"] === id) : -1;
    const name = findField(this.release.definition.fields, lines)?.field.name;
    const values = at >= 0 && name !== undefined ? this.form().get(name) : null;
    return isList(values ?? null) ? ((values as readonly Value[])[at] ?? null) : null;
  }

  /** What a step came to, found or gathered: in this round, else in those around it. */
  ofStep(name: string): Value | undefined {
    const known = this.steps.get(name);
    if (known !== undefined) return known;
    const ids = stepsOf(this.release).get(name);
    if (!ids) return undefined;
    for (const scope of this.around()) {
      const value = this.cameTo(ids, scope ?? this.state, scope?.id ?? null);
      if (value === undefined) continue;
      this.steps.set(name, value);
      return value;
    }
    return undefined;
  }

  private cameTo(ids: readonly string[], s: ScopeValues, scope: string | null): Value | undefined {
    const step = ids.findLast((id) => Object.hasOwn(s.outcomes, id) || Object.hasOwn(s.kept, id));
    if (step === undefined) return undefined;
    const kept = Object.hasOwn(s.kept, step) ? s.kept[step]! : undefined;
    const { asks } = stepKind(this.release.kinds, this.release.places.get(step)!.step);
    if (kept && !asks) {
      if ("value" in kept) return this.valueOf(kept.value);
      const records = kept.ids.map((id) => this.facts.record(kept.register, id));
      return kept.many ? records : (records[0] ?? null);
    }
    if (!Object.hasOwn(s.outcomes, step)) return undefined;
    const answers = answersGiven(this.release, this.state, step, scope).map((a) => this.said(a));
    const outcome = new Map<string, Value>([...this.said(s.outcomes[step]!), ["answers", answers]]);
    if (kept && "value" in kept) outcome.set(SIGNED_DOCUMENT, this.valueOf(kept.value));
    if (this.release.readsAllAnswers) {
      // Tasks of earlier times are not read with a part of a large request.
      if (this.state.partial) throw new NeedsWhole();
      const all = answersGiven(this.release, this.state, step, scope, "each");
      outcome.set(
        ALL_ANSWERS,
        all.map((a) => this.said(a)),
      );
    }
    return outcome;
  }

  /** An answer as formulas see it. */
  private said(o: Outcome): Map<string, Value> {
    return new Map<string, Value>([
      ["answer", o.answer],
      ["note", o.note || null],
      ["by", o.by ? this.facts.person(o.by) : null],
      ["at", moment(this.facts, o.at)],
    ]);
  }
}

/** What a name means in the rounds of a step; their types are of no matter here. */
const roles = new WeakMap<Step, ReadonlyMap<string, string>>();
function roleOf(release: CompiledRelease, step: Step, name: string): string | undefined {
  let known = roles.get(step);
  if (!known) {
    const names = stepKind(release.kinds, step).rounds?.names(step, ANY_TYPES) ?? [];
    roles.set(step, (known = new Map(names.map((n) => [n.name, n.role]))));
  }
  return known.get(name);
}
