import { YESNO, type Clause } from "@/core/expression";
import type { StepBehaviour } from "@/core/kinds";
import { uncovered } from "./coverage";

const OTHERWISE = { yes: true, empty: false, why: [] };

/** The way by conditions: the first that holds. */
export const choose: StepBehaviour<"choose"> = {
  verb: "Choose",
  says: "the way by conditions",
  blank: (id) => ({
    id,
    name: "Choice",
    kind: "choose",
    ways: [
      { id: `${id}-1`, name: "first way", when: "", steps: [] },
      { id: `${id}-2`, name: "otherwise", steps: [] },
    ],
  }),
  lists: {
    in: "ways",
    one: "way",
    name: (w) => w.name,
    back: () => false,
    blank: (id, count) => ({ id, name: `way ${count + 1}`, when: "", steps: [] }),
    // Before the way for all others, which must stay last.
    at: (s) => (s.ways.at(-1)?.when === undefined ? Math.max(0, s.ways.length - 1) : s.ways.length),
    sideBySide: false,
  },
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    ways: s.ways.map((w) => {
      if (w.when === undefined) return w;
      const spot = { place: `way ${w.id}`, says: `the condition of the way “${w.name}”`, wants: YESNO };
      return { ...w, when: walk.formula(spot, w.when) };
    }),
  }),
  steps: (s) => s,
  sets: () => [],
  problems(s, { say, scope, definition }) {
    if (s.ways.length === 0) return say("error", "no-ways", `"${s.name}" has no ways to choose from.`);
    const open = s.ways.findIndex((w) => !w.when);
    if (open >= 0 && open < s.ways.length - 1)
      say(
        "error",
        "way-never",
        `The way "${s.ways[open + 1]!.name}" is never taken: "${s.ways[open]!.name}" before it has no condition.`,
      );
    if (open >= 0) return;
    const example = uncovered(s, scope, definition.fields);
    say(
      "error",
      "falls-through",
      example ?? `A request for which none of the conditions holds has no way on.`,
      "ways",
      {
        label: "Add a way for all others",
        edit: {
          op: "list.add",
          step: s.id,
          after: s.ways.at(-1)!.id,
          list: { id: `${s.id}-other`, name: "otherwise", steps: [] },
        },
      },
    );
  },
  exit: () => null,
  goesOn: (s, list) =>
    s.ways.length === 0 || s.ways.some((w) => list(w.steps)) || s.ways.every((w) => w.when),
  passes: false,
  enter(turn, s) {
    // Ways left aside only because something is empty are told with the one that is taken.
    const aside: Clause[] = [];
    for (const way of s.ways) {
      const { yes, empty, why } = way.when ? turn.holds(`way ${way.id}`, way.when) : OTHERWISE;
      if (empty) aside.push(...why);
      if (!yes) continue;
      turn.did({ kind: "choose", way: way.id, name: way.name, why: [...aside, ...why] });
      return { go: "into", list: way.id };
    }
    return { go: "stuck", reason: { code: "no-way", data: { step: s.name } } };
  },
  news: {
    line: (n, step) => ({ text: `${step}: ${n.name}`, why: n.why }),
    outcome: (n) => n.name,
    lists: (n) => [n.way],
  },
  reasons: {
    "no-way": (d) => `At "${d.step}" no condition holds, so there is no way on.`,
  },
};
