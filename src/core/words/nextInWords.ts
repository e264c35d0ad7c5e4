import type { CompiledRelease } from "../engine";
import { colleagueOf, followerOf, type Party } from "../form";
import { stepKind } from "../kinds";
import { firstAt, following, heldBy, listsOf, type Step } from "../route";

type Route = Pick<CompiledRelease, "places" | "kinds">;
type At = Step | null | "branch end";

const BACK = "goes back to the requester for changes";
const WAITS = "stops until an owner of the process says who makes the changes";

/** How many choices within choices are told; ways beyond so many are "elsewhere". */
const DEEPEST = 2;
const MOST_WAYS = 4;

/**
 * What each answer of a step leads to, in words: "approve: then Finance decides (above EUR 300) or Handover (otherwise)".
 * @param asker who asked: only people who work here can be asked for changes
 */
export function nextInWords(route: Route, stepId: string, asker?: Party): { answer: string; then: string }[] {
  const { places, kinds } = route;
  const step = places.get(stepId)?.step;
  if (!step) return [];
  const { asks } = stepKind(kinds, step);
  const offered = (asks?.answers(step) ?? []).filter((a) => !a.byLadder);
  return offered.map((a) => {
    if (asks?.beside?.(step)) return { answer: a.label, then: "nothing waits for it" };
    if (a.returns)
      return {
        answer: a.label,
        then: asker && (colleagueOf(asker) ?? followerOf(asker)) === null ? WAITS : BACK,
      };
    const next = asks!.answered(step, a.id);
    const held =
      next.go === "into" ? listsOf(step, kinds).find((l) => l.id === next.list)?.steps[0] : undefined;
    const first = held ?? following(places, step.id);
    return { answer: a.label, then: `then ${words(route, first, DEEPEST, atEnd(route, stepId))}` };
  });
}

/** What comes of a form once it is sent, in the words of the first step: "then Registry checks it". */
export const afterStartInWords = (route: Route, first: Step | undefined): string =>
  `then ${words(route, first ?? null, DEEPEST, "it is done")}`;

const ROUNDS_END = "the other rounds are waited for";

/** What follows where what a step stands in, of all that goes on by itself, has come to its end. */
function atEnd({ places, kinds }: Route, step: string): string {
  const around = places.get(step)?.owners.findLast((o) => o.sideBySide)?.step;
  const kind = around && stepKind(kinds, around);
  if (kind?.late) return "nothing more follows";
  return kind?.rounds ? ROUNDS_END : "the other branches are waited for";
}

/** What a request comes to next, for somebody who waits for it: steps nobody waits at are passed over. */
function words(route: Route, first: At, deep: number, end: string): string {
  const { places, kinds } = route;
  let s = firstAt(places, kinds, first);
  for (let i = 0; i < 50 && s && s !== "branch end" && stepKind(kinds, s).passes; i++)
    s = firstAt(places, kinds, following(places, s.id));
  if (s === "branch end") return end;
  if (s === null) return "it is done";
  const exit = stepKind(kinds, s).exit(s);
  if (exit)
    return "ends" in exit
      ? `it ends as “${exit.ends}”`
      : `${places.get(exit.to)?.step.name ?? "elsewhere"} again`;
  const { lists, asks, rounds: goesRound, mayGo } = stepKind(kinds, s);
  if (mayGo && deep > 0) {
    const to = mayGo(s).map((id) => `${places.get(id)?.step.name ?? "elsewhere"} again`);
    return joined([words(route, following(places, s.id), deep - 1, end), ...to], "or");
  }
  if (!lists || asks || deep === 0) return s.name;
  if (goesRound) {
    const inside = listsOf(s, kinds)[0]?.steps[0];
    const within = inside ? words(route, inside, deep - 1, ROUNDS_END) : ROUNDS_END;
    // Nobody is waited for in them: what they are for says more.
    return within === ROUNDS_END ? s.name : `${within}, once per ${goesRound.one(s)}`;
  }
  const at = s;
  const names = new Map(heldBy(at, lists).map((h) => [h.id, lists.name(h)]));
  const all = listsOf(at, kinds).map((l) => ({
    then: words(route, l.steps[0] ?? following(places, at.id), deep - 1, end),
    name: names.get(l.id) ?? l.id,
  }));
  const shown = all.slice(0, MOST_WAYS);
  const rest = all.length > shown.length ? [`elsewhere (${all.length - shown.length} more)`] : [];
  if (lists.sideBySide)
    return `${joined([...new Set(shown.map((w) => w.then)), ...rest], "and")}, side by side`;
  return joined([...shown.map((w) => `${w.then} (${w.name})`), ...rest], "or");
}

const joined = (parts: readonly string[], last: "and" | "or"): string =>
  parts.length < 2 ? (parts[0] ?? "") : `${parts.slice(0, -1).join(", ")} ${last} ${parts.at(-1)}`;
