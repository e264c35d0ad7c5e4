import type { StepBehaviour } from "@/core/kinds";

/** A person fills in or confirms. */
export const complete: StepBehaviour<"complete"> = {
  verb: "Complete",
  says: "a person fills in or confirms",
  blank: (id) => ({
    id,
    name: "Task",
    kind: "complete",
    who: { rule: { by: "requester" }, how: "one", requesterToo: true },
    button: "Done",
  }),
  lists: null,
  asks: {
    purpose: "complete",
    verb: "confirms",
    who: (s) => s.who,
    limit: (s) => s.limit,
    offers: (s) => s.offers,
    byMail: (s) => s.byMail,
    answers: (s) => [{ id: "done", label: s.button, tone: "agree", ...(s.anew ? { anew: s.anew } : {}) }],
    answered: () => ({ go: "on" }),
    beside: (s) => s.beside ?? null,
  },
  formulas: (s, walk) => walk.asks(s),
  steps: (s) => s,
  sets: () => [],
  problems: () => undefined,
  exit: () => null,
  goesOn: () => true,
  passes: false,
  enter: () => ({ go: "asks" }),
};
