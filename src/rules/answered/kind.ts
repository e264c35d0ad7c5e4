import type { RuleBehaviour } from "@/core/kinds";
import type { RuleParts } from "../shapes";

const stepsOf = (r: RuleParts["answered"]): string[] => [r.step, ...(r.others ?? [])];

/** Whoever has answered another step, or any of several. */
export const answered: RuleBehaviour<"answered"> = {
  says: "whoever answered another step",
  blank: () => ({ by: "answered", step: "" }),
  empty: (r) => stepsOf(r).includes(""),
  formulas: (r) => r,
  people: (r, turn) => stepsOf(r).flatMap((step) => turn.answerersOf(step)),
  steps: (r, at) => ({ ...r, step: at(r.step), ...(r.others ? { others: r.others.map(at) } : {}) }),
  problems(r, { asking, say }) {
    for (const step of stepsOf(r))
      if (!step) say("error", "no-step", "Choose the step whose people are meant.");
      else if (asking(step) === null)
        say("error", "no-step", "A step whose people are meant is not there any more, or asks nobody.");
  },
  words(r, { step }) {
    if (!r.step) return "nobody yet";
    return `whoever answered ${stepsOf(r)
      .map((id) => `“${step(id)}”`)
      .join(" or ")}`;
  },
};
