import type { RuleBehaviour } from "@/core/kinds";

/** Whoever has answered another step. */
export const answered: RuleBehaviour<"answered"> = {
  says: "whoever answered another step",
  blank: () => ({ by: "answered", step: "" }),
  empty: (r) => !r.step,
  formulas: (r) => r,
  people: (r, turn) => turn.answerersOf(r.step),
  steps: (r, at) => ({ ...r, step: at(r.step) }),
  problems(r, { asking, say }) {
    if (!r.step) say("error", "no-step", "Choose the step whose people are meant.");
    else if (asking(r.step) === null)
      say("error", "no-step", "The step whose people are meant is not there any more, or asks nobody.");
  },
  words: (r, { step }) => (r.step ? `whoever answered “${step(r.step)}”` : "nobody yet"),
};
