import type { CompiledRelease, RequestEvent, RequestState } from "../engine";
import { stepKind } from "../kinds";
import { START, type Step } from "../route";

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
  /** What each of those asked has said, in the order they did; empty where one answer says it all. */
  said: { by: string | null; answer: string }[];
}
type Route = Pick<CompiledRelease, "places" | "kinds">;

/** The path so far, one stop per arrival. */
export function pathOf(
  { places, kinds }: Route,
  state: RequestState,
  events: readonly RequestEvent[],
): PathStop[] {
  const stops: PathStop[] = [];
  const arrive = (step: string, at: number, outcome = "") => {
    const p = places.get(step);
    if (p)
      stops.push({
        step,
        number: p.number,
        name: p.step.name,
        kind: p.step.kind,
        state: "done",
        at,
        outcome,
        said: [],
      });
  };
  const settle = (step: string, outcome: string) => {
    const last = stops.findLast((s) => s.step === step);
    if (last) last.outcome = outcome;
  };
  for (const e of events) {
    switch (e.type) {
      case "request started":
        stops.push({
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
      case "answer given": {
        const task = state.tasks[e.task];
        if (task && task.purpose !== "changes")
          stops.findLast((s) => s.step === task.step)?.said.push({ by: e.by, answer: e.label });
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
        if (!stops.some((s) => s.step === e.step)) arrive(e.step, e.at);
        break;
      case "task closed": {
        const task = state.tasks[e.task];
        const last = task && stops.findLast((s) => s.step === task.step);
        if (e.reason === "ended" && last?.outcome === "")
          Object.assign(last, { outcome: "called off", state: "off" });
        break;
      }
      case "way chosen":
        if (!stops.some((s) => s.step === e.step)) arrive(e.step, e.at);
        settle(e.step, e.label);
        break;
      case "request finished":
        arrive(e.step, e.at, e.result);
        break;
      // What happens at a stop, and between stops.
      case "records kept":
      case "data changed":
      case "token placed":
      case "token moved":
      case "branch ended":
      case "task opened":
      case "task taken":
      case "task put back":
      case "task handed over":
      case "decider added":
      case "visit given up":
      case "returned for changes":
      case "changes sent":
      case "effect done":
      case "effect failed":
      case "timer set":
      case "timer cleared":
      case "rung fired":
      case "got unstuck":
      case "reminded":
      case "limit changed":
      case "values blanked":
      case "request withdrawn":
      case "request cancelled":
        break;
    }
  }
  return marked(stops, state);
}

/** The stops with those marked where somebody or something is waited for, or that are stuck. */
function marked(stops: readonly PathStop[], state: RequestState): PathStop[] {
  const here = new Set([...Object.values(state.visits), ...Object.values(state.pending)].map((x) => x.step));
  const stuck = new Set(state.stuck.map((s) => s.step));
  const last = new Map(stops.map((s, i) => [s.step, i]));
  // Telling somebody again and again is one stop.
  const kept = stops.filter((s, i) => s.kind !== "tell" || last.get(s.step) === i);
  return kept.map((stop) => {
    const open = here.has(stop.step) && stops[last.get(stop.step)!] === stop;
    const s = stop.said.length > 1 || open ? stop : { ...stop, said: [] };
    if (stops[last.get(s.step)!] !== stop) return s;
    if (stuck.has(s.step)) return { ...s, state: "stuck" };
    return here.has(s.step) ? { ...s, state: "here" } : s;
  });
}
