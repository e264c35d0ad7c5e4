import type { StepBehaviour } from "@/core/kinds";

/** Goes on with another step. */
export const jump: StepBehaviour<"jump"> = {
  verb: "Jump",
  says: "go on with another step",
  blank: (id) => ({ id, name: "Jump", kind: "jump", to: "" }),
  lists: null,
  asks: null,
  formulas: (s) => s,
  steps: (s, at) => ({ ...s, to: at(s.to) }),
  sets: () => [],
  problems(s, { reach, say }) {
    const to = reach(s.to);
    if (to.ok) return;
    switch (to.why) {
      case "unknown":
        return say("error", "bad-jump", "Say which step to go on with.", "to");
      case "across":
        return say(
          "error",
          "jump-across",
          `A jump cannot go into or out of branches that run side by side: step ${to.number} stands in other branches than this one.`,
          "to",
        );
      case "endless":
        return say(
          "error",
          "endless",
          `From here the route runs in a circle without ever asking anybody.`,
          "to",
        );
    }
  },
  exit: (s) => ({ to: s.to }),
  goesOn: () => false,
  passes: false,
  enter: (_, s) => ({ go: "to", step: s.to }),
};
