import type { StepBehaviour } from "@/core/kinds";

/** A heading over steps, which fold, move and are copied as one. */
export const part: StepBehaviour<"part"> = {
  verb: "Part",
  says: "a heading over steps, to fold and move as one",
  blank: (id) => ({ id, name: "Part", kind: "part", bodies: [{ id: `${id}-body`, steps: [] }] }),
  lists: {
    in: "bodies",
    one: "part",
    name: () => "",
    back: () => false,
    blank: (id) => ({ id, steps: [] }),
    at: () => 0,
    most: 1,
    least: 1,
    sideBySide: false,
    passedBy: false,
  },
  heading: true,
  asks: null,
  formulas: (s, walk) => (s.limit ? { ...s, limit: walk.limit(s.limit) } : s),
  span: (s) => s.limit,
  steps: (s) => s,
  sets: () => [],
  problems(s, { say }) {
    if (s.name.trim() === "") say("error", "no-name", "A part needs a heading, for example: Checks.", "name");
    if (s.bodies[0]?.steps.length === 0)
      say("warning", "empty-part", "Nothing stands in this part yet: add a step, or move steps into it.");
  },
  exit: () => null,
  goesOn: (s, list) => s.bodies.every((b) => list(b.steps)),
  passes: true,
  enter: (_, s) => ({ go: "into", list: s.bodies[0]?.id ?? "" }),
};
