import type { EffectKind, ResultOf } from "@/steps/shapes";
import { isGroup, personParty, type FormData } from "../form";
import type { Command } from "./commands";
import { stepKind } from "../kinds";
import { answersOf } from "./answer";
import { inCall, levelsOf, outsideId, releaseAt } from "./callIds";
import { decide } from "./decide";
import type { Effect } from "./effects";
import { evolve } from "./evolve";
import type { RequestEvent } from "./events";
import type { EngineFacts } from "./facts";
import { START, type CompiledRelease } from "./release";
import { withOffered, withoutOffers } from "./sampleOffers";
import { type Outsider, isEnded, isOpen, NEW_REQUEST, type RequestState, type StuckReason } from "./state";

/** What a sample comes to when everybody agrees and every write succeeds. */
export interface SamplePath {
  /** Steps entered, in order; those of procedures with what hands to them before them ("s4~s1"). */
  steps: string[];
  /** Who was asked at a step, and until when. */
  asked: Record<string, { people: string[]; due: number | null }>;
  /** People outside who were asked, by their accounts. */
  outsiders: Readonly<Record<string, Outsider>>;
  /** Ids of answers, ways and branches taken. */
  lists: string[];
  result: string | null;
  /** Why it could not be followed to the end. */
  stop: string | null;
  /** Where it is stuck: why. */
  stuck: StuckReason | null;
}

const MAX_COMMANDS = 200;

/** Something a sample asks of the world, and the request as it stands then. */
export interface SampleAsked {
  effect: Effect;
  state: RequestState;
  /** What is taken for the result where nothing is asked of anybody. */
  rehearsed: ResultOf<EffectKind>;
}
/** What came of it, and what is known from then on. */
export interface SampleAnswer {
  result: ResultOf<EffectKind>;
  facts?: EngineFacts;
}

/** Runs a sample through a draft by the engine itself, with nobody and nothing outside involved. */
export function samplePath(
  release: CompiledRelease,
  requester: string,
  data: FormData,
  facts: EngineFacts,
): SamplePath {
  const walk = sampleWalk(release, requester, data, facts);
  let step = walk.next();
  while (!step.done) step = walk.next({ result: step.value.rehearsed });
  return step.value;
}

/**
 * The same, asking whoever drives it for what the steps ask of the world.
 * @param told is told of each event, with the request as it is after that
 */
export function* sampleWalk(
  release: CompiledRelease,
  requester: string,
  data: FormData,
  known: EngineFacts,
  told: (e: RequestEvent, state: RequestState, facts: EngineFacts) => void = () => undefined,
): Generator<SampleAsked, SamplePath, SampleAnswer> {
  const out: SamplePath = {
    steps: [],
    asked: {},
    outsiders: {},
    lists: [],
    result: null,
    stop: null,
    stuck: null,
  };
  const waiving = (f: EngineFacts): EngineFacts => ({ ...f, waivesRecords: true });
  let facts = waiving(known);
  let state: RequestState = NEW_REQUEST;
  const effects = new Map<string, Effect>();
  const calls = new Map<string, string>();
  const send = (c: Command): boolean => {
    const d = decide(release, state, c, facts);
    if (!d.ok) {
      const r = d.refusal;
      out.stop = r.code === "form" ? "form" : r.code;
      return false;
    }
    for (const e of d.events) told(e, (state = evolve(state, e)), facts);
    state = d.state;
    out.outsiders = state.outsiders ?? {};
    for (const e of d.effects) effects.set(e.id, e);
    note(release, d.events, out, calls);
    return true;
  };
  const start = { requester: personParty(requester), number: "SAMPLE", data };
  if (!send({ type: "start", actor: requester, ...start })) return out;
  for (let i = 0; i < MAX_COMMANDS && !isEnded(state); i++) {
    const levels = levelsOf(state);
    const first = <T>(of: (s: RequestState) => readonly T[]) =>
      levels.flatMap((level) => of(level.state).map((x) => ({ level, x })))[0];
    const pending = first((s) => Object.values(s.pending));
    const task = first((s) => Object.values(s.tasks).filter(isOpen));
    const asleep = first((s) => Object.values(s.sleeps).filter((z) => z.until !== null));
    const waits = first((s) => Object.values(s.sleeps));
    const parked = levels.some((l) => Object.values(l.state.runs).some((r) => r.parked));
    if (pending) {
      const { level, x: effect } = pending;
      const on = releaseAt(level, release, facts.procedures);
      const step = on.places.get(effect.step)?.step;
      const rehearse = on.kinds.steps[effect.kind].rehearse;
      if (!step || !rehearse) return out;
      const id = outsideId(level, effect.id);
      const asked = effects.get(id);
      const rehearsed = rehearse(step);
      const answer = asked ? yield { effect: asked, state, rehearsed } : { result: rehearsed };
      if (answer.facts) facts = waiving(answer.facts);
      if (!send({ type: "effect done", effect: { ...effect, id }, result: answer.result })) return out;
    } else if (state.stuck[0]) {
      out.stop = "stuck";
      out.stuck = state.stuck[0].reason;
      return out;
    } else if (task) {
      const { level, x } = task;
      const on = releaseAt(level, release, facts.procedures);
      const answers = answersOf(on, x);
      const answer = answers.find((a) => a.tone === "agree") ?? answers[0];
      const step = on.places.get(x.step)?.step;
      const actor = x.holder ?? x.candidates[0]?.person;
      if (!answer || !actor) return out;
      // Fields that people fill in on the way are not known of a sample; what they must hold is waived.
      const { offers } = level.state.visits[x.visit] ?? {};
      const filled = waive(on, x.step, level.state.data);
      const data = withOffered(on.definition.fields, filled, offers, on.kinds.fields);
      state = withoutOffers(state);
      const id = outsideId(level, x.id);
      if (!send({ type: "answer", actor, task: id, answer: answer.id, note: "sample", data, anew: true }))
        return out;
      if (step && level.calls.length === 0 && stepKind(on.kinds, step).lists)
        out.lists.push(`${step.id}/${answer.id}`);
    } else if (asleep) {
      const timer = outsideId(asleep.level, `${asleep.x.id}.wake`);
      if (!send({ type: "time reached", timer })) return out;
    } else if (parked) {
      if (!send({ type: "go on" })) return out;
    } else {
      // What it waits for is nothing that a sample can bring about.
      if (waits) out.stop = "waits";
      return out;
    }
  }
  out.result = state.result?.name ?? null;
  return out;
}

/** Something in every text field a step has to fill in, so that the sample gets on. */
function waive(release: CompiledRelease, step: string, data: FormData): FormData {
  const access = release.access(step);
  const start = release.access(START);
  const out: Record<string, string> = {};
  const visit = (fields: CompiledRelease["definition"]["fields"]) => {
    for (const f of fields) {
      if (isGroup(f)) {
        visit(f.fields ?? []);
        continue;
      }
      const { filler } = release.kinds.fields[f.kind];
      const onTheWay = access(f.id) === "edit" && start(f.id) !== "edit";
      if (filler && onTheWay && f.needed && !data[f.id]) out[f.id] = filler;
    }
  };
  visit(release.definition.fields);
  return out;
}

/**
 * @param within the ids of the steps that hand to the procedure the events are of, and a mark behind each
 * @param calls those ids by the call, gathered on the way
 */
function note(
  release: CompiledRelease,
  events: readonly RequestEvent[],
  out: SamplePath,
  calls: Map<string, string>,
  within = "",
) {
  const id = (step: string) => within + step;
  for (const e of events) {
    if (e.type === "token placed" || e.type === "token moved" || e.type === "round opened")
      out.steps.push(id(e.step));
    else if (e.type === "call opened") {
      out.steps.push(id(e.call.step));
      calls.set(`${within}${e.call.id}`, inCall(id(e.call.step), ""));
    } else if (e.type === "in call")
      note(release, [e.event], out, calls, calls.get(`${within}${e.call}`) ?? within);
    else if (e.type === "run opened") out.lists.push(`${id(e.run.step)}/${e.run.list}`);
    else if (e.type === "step did") {
      const taken = release.kinds.steps[e.did.kind].news?.lists(e.did) ?? [];
      out.lists.push(...taken.map((l) => `${id(e.step)}/${l}`));
    } else if (e.type === "visit opened") out.asked[id(e.visit.step)] = { people: [], due: e.visit.due };
    else if (e.type === "task opened")
      out.asked[id(e.task.step)]?.people.push(...e.task.candidates.map((c) => c.person));
    else if (e.type === "request finished") out.steps.push(id(e.step));
  }
}
