import { stepKind } from "../kinds";
import type { CompiledRelease } from "./release";
import { isOfStep, type Outcome, type RequestState } from "./state";

/**
 * What each of those asked has answered when a step was decided, in the order they did.
 * @param scope the round in which it was decided; null outside of all rounds
 * @param times the last time it was, or each time
 */
export function answersGiven(
  release: Pick<CompiledRelease, "places" | "kinds">,
  s: Pick<RequestState, "tasks" | "visits">,
  stepId: string,
  scope: string | null = null,
  times: "last" | "each" = "last",
): Outcome[] {
  const step = release.places.get(stepId)?.step;
  const choices = step ? (stepKind(release.kinds, step).asks?.answers(step) ?? []) : [];
  const given = Object.values(s.tasks).filter(
    // A visit that is still open has come to nothing yet.
    (t) =>
      t.step === stepId &&
      (t.scope ?? null) === scope &&
      isOfStep(t) &&
      t.status === "answered" &&
      !(t.visit in s.visits),
  );
  const last = given.reduce((v, t) => (visitNumber(t.visit) > visitNumber(v) ? t.visit : v), "v0");
  return given
    .filter((t) => times === "each" || t.visit === last)
    .sort((a, b) => visitNumber(a.visit) - visitNumber(b.visit) || (a.endedAt ?? 0) - (b.endedAt ?? 0))
    .map((t) => ({
      answer: choices.find((a) => a.id === t.answer)?.label ?? t.answer ?? "",
      note: t.note ?? "",
      by: t.by ?? null,
      at: t.endedAt ?? t.openedAt,
    }));
}
const visitNumber = (id: string): number => Number(/\d+$/.exec(id)?.[0] ?? 0);
