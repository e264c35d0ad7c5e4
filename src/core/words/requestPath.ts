import {
  isOfStep,
  isQuestion,
  NEW_REQUEST,
  type CompiledRelease,
  type RequestEvent,
  type RequestState,
} from "../engine";
import { stepKind } from "../kinds";
import { START, type Step } from "../route";
import { RoundsTold } from "./roundsTold";

/** One stop of a request: steps it has been at, in the order of arriving, then where it is. */
export interface PathStop {
  step: string;
  number: string;
  name: string;
  kind: Step["kind"] | "start";
  /** `off`: whoever was asked there was so no more, because the request ended. */
  state: "done" | "here" | "stuck" | "off";
  at: number;
  /** What came of it: the answer, the way taken, the result. */
  outcome: string;
  /** Until when it sleeps there. */
  until?: number;
  /** It waits for something to be so. */
  awaits?: true;
  /** What each of those asked has said, in the order they did; empty where one answer says it all. */
  said: { by: string | null; answer: string }[];
  /** Of a step that goes through something again and again. */
  rounds?: PathRounds;
  /** Of a step that hands to a procedure: the path through that. */
  inner?: { call: string; stops: PathStop[] };
}
export interface PathRounds {
  of: number;
  /** Come to their end, and called off. */
  ended: number;
  off: number;
  each: PathRound[];
}
export interface PathRound {
  scope: string;
  /** "Object 3 of 7: Rope makers" */
  words: string;
  state: PathStop["state"];
  stops: PathStop[];
}
type Route = Pick<CompiledRelease, "places" | "kinds">;

/** The path so far, one stop per arrival; what happened in rounds stands at the step that goes through them. */
export function pathOf(
  { places, kinds }: Route,
  state: RequestState,
  events: readonly RequestEvent[],
  procedures: (release: string) => Route | null = () => null,
): PathStop[] {
  const root: PathStop[] = [];
  let end: PathStop | null = null;
  const told = new RoundsTold();
  const rounds = new Map<string, PathRound>();
  const runs = new Map<string, PathRounds>();
  const calls = new Map<string, { stop: PathStop | undefined; release: string; events: RequestEvent[] }>();
  for (const e of events) {
    told.note(e);
    const stops = (e.scope === undefined ? undefined : rounds.get(e.scope)?.stops) ?? root;
    const arrive = (step: string, at: number, outcome = "") => {
      const p = places.get(step);
      if (!p) return;
      const { number } = p;
      const { name, kind } = p.step;
      stops.push({ step, number, name, kind, state: "done", at, outcome, said: [] });
    };
    const lastAt = (step: string) => stops.findLast((s) => s.step === step && s !== end);
    const settle = (step: string, outcome: string) => {
      const last = lastAt(step);
      if (last) last.outcome = outcome;
    };
    switch (e.type) {
      case "request started":
        root.push({
          step: START,
          number: "1",
          name: "Request made",
          kind: "start",
          state: "done",
          at: e.at,
          outcome: "",
          said: [],
        });
        break;
      case "visit opened":
        if (e.visit.purpose === "changes") settle(e.visit.step, "sent back for changes");
        else arrive(e.visit.step, e.at);
        break;
      case "fell asleep": {
        arrive(e.sleep.step, e.at);
        const stop = lastAt(e.sleep.step);
        if (stop && e.sleep.until !== null) stop.until = e.sleep.until;
        if (stop && e.sleep.watches) stop.awaits = true;
        break;
      }
      case "answer given": {
        const task = state.tasks[e.task];
        if (task && isOfStep(task)) lastAt(task.step)?.said.push({ by: e.by, answer: e.label });
        break;
      }
      case "step decided":
        settle(e.step, e.label);
        break;
      case "step did":
        arrive(e.step, e.at, kinds.steps[e.did.kind].news?.outcome(e.did) ?? "");
        break;
      case "effect asked": {
        // What a ladder sends belongs to a step where people are asked already.
        const step = places.get(e.effect.step)?.step;
        if (step && !stepKind(kinds, step).asks) arrive(step.id, e.at);
        break;
      }
      case "values set":
        if (stops.at(-1)?.step !== e.step) arrive(e.step, e.at);
        break;
      case "got stuck":
        // A round that cannot be ended is stuck at the step around it, which has its stop there.
        if (!stops.some((s) => s.step === e.step) && !told.isRoundOf(e.token, e.step)) arrive(e.step, e.at);
        break;
      case "task closed": {
        const task = state.tasks[e.task];
        const last = task && !isQuestion(task) && lastAt(task.step);
        if (
          last &&
          (e.reason === "ended" || e.reason === "enough" || e.reason === "gone") &&
          last.outcome === ""
        )
          Object.assign(last, { outcome: "called off", state: "off" });
        break;
      }
      case "way chosen":
        if (!stops.some((s) => s.step === e.step)) arrive(e.step, e.at);
        settle(e.step, e.label);
        break;
      case "request finished":
        arrive(e.step, e.at, e.result);
        end = stops.at(-1) ?? null;
        break;
      case "call opened":
        arrive(e.call.step, e.at);
        calls.set(e.call.id, { stop: lastAt(e.call.step), release: e.call.release, events: [] });
        break;
      case "in call":
        calls.get(e.call)?.events.push(e.event);
        break;
      case "call ended":
        settle(e.step, e.result);
        break;
      case "call called off": {
        const stop = calls.get(e.call)?.stop;
        if (stop) Object.assign(stop, { outcome: "called off", state: "off" });
        break;
      }
      case "run opened": {
        const { id, step, items } = e.run;
        if (lastAt(step) === undefined) arrive(step, e.at);
        const run = { of: typeof items === "number" ? items : items.length, ended: 0, off: 0, each: [] };
        runs.set(id, run);
        const stop = lastAt(step);
        if (stop) stop.rounds = run;
        break;
      }
      case "round opened": {
        const round: PathRound = {
          scope: e.token,
          words: told.ownWords(e.token),
          state: "here",
          stops: [],
        };
        rounds.set(e.token, round);
        runs.get(e.run)?.each.push(round);
        break;
      }
      case "round ended": {
        const [run, round] = [runs.get(e.run), rounds.get(e.token)];
        if (run) run.ended++;
        if (round) round.state = "done";
        break;
      }
      case "round left out": {
        const run = runs.get(e.run);
        if (run) run.off++;
        break;
      }
      case "token called off": {
        const round = rounds.get(e.token);
        const run = round && [...runs.values()].find((r) => r.each.includes(round));
        if (round) round.state = "off";
        if (run) run.off++;
        // Where it slept, or stood with others waiting for it.
        const last = lastAt(e.step);
        if (last?.outcome === "") Object.assign(last, { outcome: "called off", state: "off" });
        break;
      }
      // What happens at a stop, and between stops.
      case "woke":
        if (e.came) settle(e.step, "is so");
        break;
      case "looked":
      case "records kept":
      case "data changed":
      case "signed":
      case "check passed":
      case "token placed":
      case "token moved":
      case "branch ended":
      case "branch let go":
      case "errand placed":
      case "errand kept":
      case "list sent out":
      case "not delivered":
      case "files removed":
      case "run closing":
      case "run parked":
      case "run went on":
      case "run ended":
      case "next asked":
      case "outsider named":
      case "task opened":
      case "task taken":
      case "task put back":
      case "task handed over":
      case "answer proposed":
      case "question asked":
      case "question ended":
      case "decider added":
      case "visit given up":
      case "returned for changes":
      case "changes sent":
      case "effect done":
      case "effect failed":
      case "span opened":
      case "span closed":
      case "timer set":
      case "timer cleared":
      case "rung fired":
      case "got unstuck":
      case "reminded":
      case "limit changed":
      case "limit stopped":
      case "limit goes on":
      case "values blanked":
      case "request withdrawn":
      case "request cancelled":
        break;
    }
  }
  for (const [id, { stop, release, events: inside }] of calls) {
    const route = procedures(release);
    if (!stop || !route) continue;
    // What is not kept of one that has ended is over.
    const now = state.calls[id]?.state ?? { ...NEW_REQUEST, endedAt: inside.at(-1)?.at ?? 0 };
    const stops = pathOf(route, now, inside, procedures).filter((s) => s.kind !== "start");
    stop.inner = { call: id, stops };
  }
  return marked(root, state, null, end);
}

/**
 * The stops with those marked where somebody or something is waited for, or that are stuck.
 * @param end where the request ended: nobody waits there, though somebody may still be asked at its step
 */
function marked(
  stops: readonly PathStop[],
  state: RequestState,
  scope: string | null,
  end: PathStop | null = null,
): PathStop[] {
  const own = (x: { scope?: string | null }) => (x.scope ?? null) === scope;
  const at = (x: { token: string; step: string }) => ({ step: x.step, scope: state.tokens[x.token]?.scope });
  const here = new Set(
    [
      ...Object.values(state.visits),
      ...Object.values(state.runs),
      ...Object.values(state.sleeps),
      ...Object.values(state.calls).filter((c) => !c.over),
      ...Object.values(state.pending).map(at),
    ].flatMap((x) => (own(x) ? [x.step] : [])),
  );
  const stuck = new Set(state.stuck.map(at).flatMap((x) => (own(x) ? [x.step] : [])));
  const last = new Map(stops.flatMap((s, i) => (s === end ? [] : [[s.step, i] as const])));
  // Telling somebody again and again is one stop.
  const kept = stops.filter((s, i) => s.kind !== "tell" || last.get(s.step) === i);
  return kept.map((stop) => {
    const rounds = stop.rounds && { ...stop.rounds, each: stop.rounds.each.map((r) => roundNow(r, state)) };
    const open = here.has(stop.step) && stops[last.get(stop.step) ?? -1] === stop;
    const s = {
      ...stop,
      ...(rounds ? { rounds } : {}),
      ...(stop.said.length > 1 || open ? {} : { said: [] }),
    };
    if (stops[last.get(s.step) ?? -1] !== stop) return s;
    if (stuck.has(s.step)) return { ...s, state: "stuck" };
    return here.has(s.step) ? { ...s, state: "here" } : s;
  });
}

/** One that was under way when the request ended went no further. */
function roundNow(r: PathRound, state: RequestState): PathRound {
  const stops = marked(r.stops, state, r.scope);
  if (r.state !== "here") return { ...r, stops };
  if (state.endedAt !== null) return { ...r, stops, state: "off" };
  const isStuck = state.stuck.some((x) => state.tokens[x.token]?.scope === r.scope);
  return { ...r, stops, state: isStuck ? "stuck" : "here" };
}
