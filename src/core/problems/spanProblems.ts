import { rungKind, stepKind, type Kinds, type Say } from "../kinds";
import type { Limit, ProcessDefinition, StepPlace } from "../route";
import { limitProblems } from "./limitProblems";

/** Where problems of such a limit stand that are of no formula. */
const AT = "limit";

/** What is wrong with the limit of a part, or of the whole request, which is about several steps. */
export function spanProblems(
  limit: Limit,
  { d, kinds }: { d: ProcessDefinition; kinds: Kinds },
  say: Say,
): void {
  limitProblems(limit, { d, kinds, answers: [] }, say);
  if (limit.ladder !== undefined)
    say(
      "error",
      "no-kept-ladder",
      "Here a limit has rungs of its own: a ladder kept by name is of one step.",
      AT,
    );
  if (limit.still !== undefined)
    say("error", "never-still", "The limit of several steps does not stand still. Take that out.", AT);
  for (const r of limit.rungs) {
    const kind = rungKind(kinds, r.action);
    if (!kind.ofMany)
      say("error", "rung-of-one", `“${kind.says}” is of one step. Put it on the ladder of that step.`, AT);
  }
}

/** The same of a part, which is not counted in rounds: each of them would need one of its own. */
export function partLimitProblems(
  { step, owners }: Pick<StepPlace, "step" | "owners">,
  around: { d: ProcessDefinition; kinds: Kinds },
  say: Say,
): void {
  const limit = stepKind(around.kinds, step).span?.(step);
  if (!limit) return;
  spanProblems(limit, around, say);
  const round = owners.find((o) => stepKind(around.kinds, o.step).rounds);
  if (round)
    say(
      "error",
      "limit-in-rounds",
      `“${step.name}” stands in the rounds of “${round.step.name}”, where a part has no limit. Set limits at its steps.`,
      AT,
    );
}
