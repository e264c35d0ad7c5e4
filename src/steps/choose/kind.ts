import { coverage, domainOf, exampleText } from "@/core/conditions";
import { parseFormula, YESNO, type Clause, type Node } from "@/core/expression";
import type { Field } from "@/core/form";
import type { StepBehaviour } from "@/core/kinds";

const OTHERWISE = { yes: true, empty: false, why: [] };

/** What is worked out is not looked into here; what is filled in may be left out unless it is always needed. */
const mayStayEmpty = (f: Field | null): boolean => f !== null && !f.worked && f.needed !== "true";

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
    passedBy: false,
  },
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    ways: s.ways.map((w) => {
      if (w.when === undefined) return w;
      const spot = {
        place: `way ${w.id}`,
        says: `the condition of the way “${w.name}”`,
        wants: YESNO,
        inOrder: true as const,
      };
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
    const asked = s.ways.slice(0, open < 0 ? undefined : open);
    const trees = asked.map((w): Node | null => parseFormula(w.when!, scope).ast);
    const domain = (name: string) => domainOf(name, scope, definition.fields);
    const covered = coverage(trees, domain);
    asked.forEach((w, i) => {
      const same = asked.slice(0, i).find((b) => b.when!.replace(/\s+/g, "") === w.when!.replace(/\s+/g, ""));
      const why = same ? "behind" : covered.never[i];
      if (why === "alone")
        say(
          "error",
          "way-never",
          `The way "${w.name}" is never taken: nothing makes ${w.when} hold.`,
          `way ${w.id}`,
        );
      if (why === "behind")
        say(
          "error",
          "way-never",
          `The way "${w.name}" is never taken: ${same ? `"${same.name}" before it has the same condition` : "whatever makes its condition hold makes one before it hold"}.`,
          `way ${w.id}`,
        );
    });
    if (open >= 0 || covered.gap === undefined) return;
    const { gap, name } = covered;
    const mend = {
      label: "Add a way for all others",
      edit: {
        op: "list.add" as const,
        step: s.id,
        after: s.ways.at(-1)!.id,
        list: { id: `${s.id}-other`, name: "otherwise", steps: [] },
      },
    };
    if (gap !== null)
      say(
        "error",
        "falls-through",
        `${covered.atBorder && typeof gap === "object" ? "Exactly " : ""}${exampleText(gap)} goes nowhere: no way holds for that ${name}.`,
        "ways",
        mend,
      );
    else if (covered.emptyFalls && mayStayEmpty(domain(name!)!.field))
      say(
        "warning",
        "falls-through",
        `A request with no ${name} goes nowhere: no way holds for it.`,
        "ways",
        mend,
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
