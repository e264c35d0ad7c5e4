import type { Names, Value } from "../expression";
import { answersGiven } from "./answersGiven";
import type { EngineFacts } from "./facts";
import type { CompiledRelease } from "./release";
import type { Outcome, RequestState } from "./state";

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

/**
 * Names beside the fields: who asked, the request itself, and what earlier steps came to. Each is worked out when it is
 * first asked for, because most formulas read none of them.
 */
export class RequestNames implements Names {
  private readonly known = new Map<string, Value>();

  constructor(
    private readonly release: CompiledRelease,
    private readonly state: RequestState,
    private readonly facts: EngineFacts,
  ) {}

  /** Whether another state of the request gives the same names. */
  fits(s: RequestState): boolean {
    const t = this.state;
    return (
      s.outcomes === t.outcomes &&
      s.kept === t.kept &&
      s.tasks === t.tasks &&
      s.visits === t.visits &&
      s.requester === t.requester &&
      s.number === t.number &&
      s.startedAt === t.startedAt
    );
  }

  get(name: string): Value | undefined {
    if (this.known.has(name)) return this.known.get(name);
    const value = this.find(name);
    if (value !== undefined) this.known.set(name, value);
    return value;
  }

  private find(name: string): Value | undefined {
    const s = this.state;
    if (name === "Requester") return this.facts.person(s.requester);
    if (name === "Request")
      return new Map<string, Value>([
        ["number", s.number],
        ["started", this.moment(s.startedAt)],
      ]);
    const step = stepsOf(this.release)
      .get(name)
      ?.findLast((id) => Object.hasOwn(s.outcomes, id) || Object.hasOwn(s.kept, id));
    if (step !== undefined && Object.hasOwn(s.kept, step)) {
      const kept = s.kept[step]!;
      const records = kept.ids.map((id) => this.facts.record(kept.register, id));
      return kept.many ? records : (records[0] ?? null);
    }
    const outcome = step === undefined ? undefined : s.outcomes[step];
    if (step === undefined || !outcome) return undefined;
    const answers = answersGiven(this.release, s, step).map((a) => this.said(a));
    return new Map<string, Value>([...this.said(outcome), ["answers", answers]]);
  }

  private moment(ms: number) {
    const { now, at } = this.facts;
    return now
      .toInstant()
      .add({ milliseconds: ms - at })
      .toZonedDateTimeISO(now.timeZoneId);
  }

  /** An answer as formulas see it. */
  private said(o: Outcome): Map<string, Value> {
    return new Map<string, Value>([
      ["answer", o.answer],
      ["note", o.note || null],
      ["by", o.by ? this.facts.person(o.by) : null],
      ["at", this.moment(o.at)],
    ]);
  }
}
