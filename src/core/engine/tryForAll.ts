import { checkFormula } from "../expression";
import { fieldType, personParty, walkFields, type Field, type FormData } from "../form";
import { mapRules, ruleKind, stepKind } from "../kinds";
import { formulaPlaces, type FormulaPlace, type Step } from "../route";
import { askedBefore, type AskedTwice } from "./askedTwice";
import type { EngineFacts } from "./facts";
import { whoWouldBeAsked } from "./forViews";
import type { CompiledRelease } from "./release";
import { sampleAt } from "./sampleAt";
import { NEW_REQUEST } from "./state";
import { Turn } from "./turn";
import { workAhead } from "./workAhead";
import { worksAtOnce } from "./worksAtOnce";

/** Trials of all steps of a route together. */
const MOST_TRIALS = 200_000;

/** Somebody's request for which a step finds nobody. */
export interface NobodyFor {
  person: string;
  /** Names of fields and what was chosen in each. */
  chosen: readonly (readonly [string, string])[];
}
/** What trying the rules of a step for everybody has come to. */
export interface TriedStep {
  step: string;
  trials: number;
  /** How many of those found nobody, and the first few. */
  nobody: number;
  first: NobodyFor[];
  /** How many could not be worked out: what they read stands in no choice. */
  unclear: number;
  /** Names of what its rules read that was not tried with other values than those there are. */
  untried: string[];
  /** How many people it was not tried for: there are more than there is time for. */
  left: number;
  /** It hangs on who answers another step, or on what one comes to that somebody or something else must do; it was not tried. */
  hangs: boolean;
  /** Where it asks the same one person as a step right before it, for requests as the sample is. */
  twice: AskedTwice[];
}

const NAMED = 5;

/**
 * Tries the rules of each step that asks people for the request of everybody who is here, and each with every value of the
 * choices those rules read. Yields before each trial how many there were: one that looks at ten thousand people takes long,
 * and whoever drives it can let others go before, or leave it.
 * @param data what stands in all other fields
 * @param most trials of all steps together
 */
export function* tryForAll(
  release: CompiledRelease,
  facts: EngineFacts,
  data: FormData,
  most = MOST_TRIALS,
): Generator<number, TriedStep[]> {
  const people = facts.everybody().map((p) => p.id);
  const steps = [...release.places.values()].flatMap(({ step }) =>
    stepKind(release.kinds, step).asks ? [step] : [],
  );
  const places = formulaPlaces(release.definition, release);
  const reads = readsBySteps(release, places);
  const out: TriedStep[] = [];
  let done = 0;
  for (const step of steps) {
    const ofStep = Math.floor(most / steps.length);
    const ahead = stepsAhead(release, reads, step);
    const room = ofStep / Math.max(1, people.length);
    const { choices, untried } = choicesRead(release, places, [step, ...(ahead ?? [])], room);
    const tried: TriedStep = {
      step: step.id,
      trials: 0,
      nobody: 0,
      first: [],
      unclear: 0,
      untried,
      left: Math.max(0, people.length - ofStep),
      hangs: ahead === null || hangsOnAnswers(release, step),
      twice: [],
    };
    out.push(tried);
    if (tried.hangs) continue;
    for (const chosen of combinations(choices)) {
      const with_ = { ...data, ...Object.fromEntries(chosen.map(([f, value]) => [f.id, value])) };
      for (const person of people.slice(0, ofStep)) {
        yield done++;
        const asked = askedFor(release, facts, person, with_, step, ahead!);
        if (!asked) continue;
        tried.trials++;
        if ("go" in asked) tried.unclear++;
        else if (asked.length === 0 && tried.nobody++ < NAMED)
          tried.first.push({ person, chosen: chosen.map(([f, v]) => [f.name, valueSaid(v)] as const) });
      }
    }
  }
  yield* findTwice(release, facts, data, out, done, (step) => stepsAhead(release, reads, step) ?? []);
  return out;
}

/** Whom a step asks in somebody's request; null where it is not known where it would stand. */
function askedFor(
  release: CompiledRelease,
  facts: EngineFacts,
  person: string,
  data: FormData,
  step: Step,
  ahead: readonly Step[],
) {
  const state = { ...NEW_REQUEST, requester: personParty(person), startedAt: facts.at, data };
  const turn = new Turn(release, state, facts, person);
  workAhead(turn, ahead);
  const at = sampleAt(turn, step.id);
  return at && whoWouldBeAsked(turn, at, stepKind(release.kinds, step).asks!.who(step));
}

/** Puts to steps for whose requests they ask the one person again whom a step right before them asked. */
function* findTwice(
  release: CompiledRelease,
  facts: EngineFacts,
  data: FormData,
  tried: readonly TriedStep[],
  begun: number,
  aheadOf: (step: Step) => readonly Step[],
): Generator<number, void> {
  let done = begun;
  const before = askedBefore(release);
  const known = new Map(tried.map((t) => [t.step, t]));
  const pairs = [...before].flatMap(([after, from]) =>
    from.flatMap((id) => {
      const [a, b] = [known.get(id), known.get(after)];
      return !a || !b || a.hangs || b.hangs ? [] : [{ id, b }];
    }),
  );
  const steps = new Set(pairs.flatMap(({ id, b }) => [id, b.step]));
  const most = Math.min(...[...steps].map((id) => MOST_TRIALS / steps.size - (known.get(id)?.left ?? 0)));
  for (const { id: person } of facts.everybody().slice(0, Math.max(0, Math.floor(most)))) {
    const sole = new Map<string, string>();
    for (const id of steps) {
      yield done++;
      const { step } = release.places.get(id)!;
      const asked = askedFor(release, facts, person, data, step, aheadOf(step));
      if (asked && !("go" in asked) && asked.length === 1) sole.set(id, asked[0]!.person);
    }
    for (const { id, b } of pairs) {
      const asked = sole.get(b.step);
      if (asked === undefined || asked !== sole.get(id)) continue;
      let twice = b.twice.find((t) => t.before === id);
      if (!twice) b.twice.push((twice = { before: id, count: 0, first: [] }));
      if (twice.count++ < NAMED) twice.first.push({ person, asked });
    }
  }
}

type Chosen = readonly (readonly [Field, string | boolean])[];
function valueSaid(v: string | boolean): string {
  if (typeof v === "string") return v;
  return v ? "yes" : "no";
}

/** Formulas that say whom a step asks. */
const ASKS = /^(who|fallback)\b/;

/** By step the steps that its formulas read by name; of one that asks, those that say whom. */
function readsBySteps(
  release: CompiledRelease,
  places: readonly FormulaPlace[],
): ReadonlyMap<string, ReadonlySet<string>> {
  const out = new Map<string, Set<string>>();
  for (const p of places) {
    const step = p.owner.kind === "step" ? release.places.get(p.owner.id)?.step : undefined;
    if (!step || (stepKind(release.kinds, step).asks && !ASKS.test(p.place))) continue;
    const read = out.get(step.id) ?? new Set();
    for (const { name } of checkFormula(p.formula, p.scope).reads.references) {
      const id = /^step (.*)$/s.exec(p.declared(name) ?? "")?.[1];
      if (id !== undefined) read.add(id);
    }
    out.set(step.id, read);
  }
  return out;
}

/** What is to be worked out before it is known whom a step asks, in reading order; null where some of that is more. */
function stepsAhead(
  release: CompiledRelease,
  reads: ReadonlyMap<string, ReadonlySet<string>>,
  step: Step,
): Step[] | null {
  const ids = new Set<string>(reads.get(step.id));
  // What is put in while they are gone through is gone through as well.
  for (const id of ids) for (const further of reads.get(id) ?? []) ids.add(further);
  const all = [...release.places.values()].flatMap((p) => (ids.has(p.step.id) ? [p.step] : []));
  return all.every((s) => worksAtOnce(release.kinds, s)) ? all : null;
}

/** The fields of choices that whom it asks hangs on, and what else that does. @param most combinations there may be */
function choicesRead(
  release: CompiledRelease,
  places: readonly FormulaPlace[],
  [step, ...ahead]: readonly Step[],
  most: number,
): { choices: [Field, (string | boolean)[]][]; untried: string[] } {
  const ids = new Set<string>();
  const others = new Set(ahead.map((s) => s.id));
  for (const p of places) {
    if (p.owner.kind !== "step") continue;
    const own = p.owner.id === step!.id && /^(who|fallback|never)\b/.test(p.place);
    if (!own && !others.has(p.owner.id)) continue;
    for (const id of release.form.reads.ofRoute(checkFormula(p.formula, p.scope).reads).filledIn) ids.add(id);
  }
  const choices: [Field, (string | boolean)[]][] = [];
  const untried: string[] = [];
  let combined = 1;
  walkFields(release.definition.fields, (f, parents) => {
    if (!ids.has(f.id)) return;
    const values = parents.some((p) => p.kind === "lines") ? null : valuesOf(f, release);
    if (values && combined * values.length <= most) {
      combined *= values.length;
      choices.push([f, values]);
    } else untried.push(f.name);
  });
  return { choices, untried };
}

/** All that can be chosen in a field; null where that is no short list. */
function valuesOf(f: Field, release: CompiledRelease): (string | boolean)[] | null {
  if (f.worked || release.kinds.fields[f.kind].many !== null) return null;
  if (fieldType(f, release).t === "yesno") return [true, false];
  return f.options && !f.among ? f.options : null;
}

function* combinations(choices: readonly [Field, (string | boolean)[]][]): Generator<Chosen> {
  const [first, ...others] = choices;
  if (!first) return yield [];
  for (const value of first[1])
    for (const rest of combinations(others)) yield [[first[0], value] as const, ...rest];
}

/** Whether whom it asks, and not only whom it never asks, hangs on who answers another step. */
function hangsOnAnswers({ kinds }: CompiledRelease, step: Step): boolean {
  let hangs = false;
  const walk = mapRules((place, r) => {
    if (ASKS.test(place) && ruleKind(kinds, r).steps) hangs = true;
    return r;
  }, kinds);
  stepKind(kinds, step).formulas(step, walk);
  return hangs;
}
