import type { CompiledRelease, RequestEvent, RequestState } from "../engine";
import { following, START, type Step } from "../process";

/** One stop of a request: steps it has been at, in the order of arriving, then where it is. */
export interface PathStop {
  step: string;
  number: string;
  name: string;
  kind: Step["kind"] | "start";
  state: "done" | "here" | "stuck";
  at: number;
  /** What came of it: the answer, the way taken, the result. */
  outcome: string;
}

/** The path so far, one stop per arrival. */
export function pathOf(
  release: Pick<CompiledRelease, "places">,
  state: RequestState,
  events: readonly RequestEvent[],
): PathStop[] {
  const stops: PathStop[] = [];
  const arrive = (step: string, at: number, outcome = "") => {
    const p = release.places.get(step);
    if (p)
      stops.push({
        step,
        number: p.number,
        name: p.step.name,
        kind: p.step.kind,
        state: "done",
        at,
        outcome,
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
        });
        break;
      case "visit opened":
        if (e.visit.purpose === "changes") settle(e.visit.step, "sent back for changes");
        else arrive(e.visit.step, e.at);
        break;
      case "step decided":
        settle(e.step, e.label);
        break;
      case "way chosen":
        arrive(e.step, e.at, e.name);
        break;
      case "branches opened":
        arrive(e.step, e.at, e.left.length > 0 ? `without ${e.left.map((l) => l.name).join(", ")}` : "");
        break;
      case "write asked":
      case "tell asked":
        arrive(e.effect.step, e.at);
        break;
      case "values set":
        if (stops.at(-1)?.step !== e.step) arrive(e.step, e.at);
        break;
      case "got stuck":
        if (!stops.some((s) => s.step === e.step)) arrive(e.step, e.at);
        break;
      case "request finished":
        arrive(e.step, e.at, e.result);
        break;
    }
  }
  const here = new Set([
    ...Object.values(state.visits).map((v) => v.step),
    ...Object.values(state.pending).map((p) => p.step),
  ]);
  const stuck = new Set(state.stuck.map((s) => s.step));
  const last = new Map(stops.map((s, i) => [s.step, i]));
  return stops
    .filter((s, i) => s.kind !== "tell" || last.get(s.step) === i)
    .map((s) => {
      const newest = stops[last.get(s.step)!] === s;
      return newest && stuck.has(s.step)
        ? { ...s, state: "stuck" }
        : newest && here.has(s.step)
          ? { ...s, state: "here" }
          : s;
    });
}

/** Steps that nobody waits at: what follows them is what a reader wants to know. */
const PASSING = new Set<Step["kind"]>(["tell", "write", "work out"]);

/** What each answer of a step leads to, in words: "approve: then Handover". */
export function nextInWords(
  release: Pick<CompiledRelease, "places">,
  stepId: string,
): { answer: string; then: string }[] {
  const step = release.places.get(stepId)?.step;
  if (!step) return [];
  const then = (first: Step | null | "branch end"): string => {
    let s = first;
    for (let i = 0; i < 50 && s && s !== "branch end" && PASSING.has(s.kind); i++)
      s = following(release.places, s.id);
    if (s === "branch end") return "then the other branches are waited for";
    if (s === null) return "then it is done";
    if (s.kind === "finish") return `ends as “${s.result}”`;
    if (s.kind === "jump") return `then ${release.places.get(s.to)?.step.name ?? "elsewhere"} again`;
    return `then ${s.name}`;
  };
  if (step.kind === "decide")
    return step.answers.map((a) => ({
      answer: a.label,
      then: a.returns
        ? "goes back to the requester for changes"
        : then(a.steps[0] ?? following(release.places, step.id)),
    }));
  if (step.kind === "complete")
    return [{ answer: step.button, then: then(following(release.places, step.id)) }];
  return [];
}
