import { YESNO } from "@/core/expression";
import type { StepBehaviour } from "@/core/kinds";

/** Goes on with another step, always or when a condition holds. */
export const jump: StepBehaviour<"jump"> = {
  verb: "Jump",
  says: "go on with another step",
  blank: (id) => ({ id, name: "Jump", kind: "jump", to: "" }),
  lists: null,
  asks: null,
  formulas: (s, walk) =>
    s.when === undefined
      ? s
      : {
          ...s,
          when: walk.formula({ place: "when", says: "when it goes to another step", wants: YESNO }, s.when),
        },
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
        return s.when
          ? say(
              "warning",
              "endless",
              "This goes round without asking anybody for as long as its condition holds; where that never ends, the request is stopped.",
              "when",
            )
          : say(
              "error",
              "endless",
              `From here the route runs in a circle without ever asking anybody.`,
              "to",
            );
    }
  },
  exit: (s) => (s.when ? null : { to: s.to }),
  mayGo: (s) => [s.to],
  goesOn: (s) => Boolean(s.when),
  passes: false,
  enter(turn, s) {
    if (!s.when) return { go: "to", step: s.to };
    const { yes, why } = turn.holds("when", s.when);
    turn.did({ kind: "jump", to: yes ? s.to : null, why });
    return yes ? { go: "to", step: s.to } : { go: "on" };
  },
  news: {
    line: (n, step, names) => ({
      text: n.to === null ? `${step}: goes on` : `${step}: to “${names.step(n.to)}”`,
      why: n.why,
      quiet: true,
    }),
    outcome: (n) => (n.to === null ? "goes on" : ""),
    lists: () => [],
  },
};
