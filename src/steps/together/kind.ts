import { YESNO } from "@/core/expression";
import type { StepBehaviour } from "@/core/kinds";
import type { StepOf } from "@/core/route";
import type { TogetherNews } from "./shape";

type Step = StepOf<"together">;

/** Whether it may go on before all branches have ended. */
const early = (s: Step): boolean =>
  s.until !== undefined || (s.needs !== undefined && s.needs < s.branches.length);

/** Branches at the same time; all are waited for, or enough of them. */
export const together: StepBehaviour<"together"> = {
  verb: "Together",
  says: "branches at the same time",
  blank: (id) => ({
    id,
    name: "Side by side",
    kind: "together",
    branches: [
      { id: `${id}-1`, name: "first", steps: [] },
      { id: `${id}-2`, name: "second", steps: [] },
    ],
  }),
  lists: {
    in: "branches",
    one: "branch",
    name: (b) => b.name,
    back: () => false,
    blank: (id, count) => ({ id, name: `branch ${count + 1}`, steps: [] }),
    at: (s) => s.branches.length,
    sideBySide: true,
    passedBy: true,
    joins: {
      early,
      enough: (turn, s, ended) =>
        (s.needs !== undefined && ended >= s.needs) ||
        (s.until !== undefined && turn.value("until", s.until) === true),
      othersRunOn: (s) => s.othersRunOn === true,
    },
  },
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    branches: s.branches.map((b) => {
      if (b.when === undefined) return b;
      const spot = { place: `branch ${b.id}`, says: `when the branch “${b.name}” is needed`, wants: YESNO };
      return { ...b, when: walk.formula(spot, b.when) };
    }),
    ...(s.until === undefined
      ? {}
      : {
          until: walk.formula(
            { place: "until", says: "when enough branches have ended", wants: YESNO },
            s.until,
          ),
        }),
  }),
  steps: (s) => s,
  sets: () => [],
  problems(s, { say }) {
    if (s.needs !== undefined && s.needs > s.branches.length)
      say(
        "error",
        "too-few-branches",
        `"${s.name}" waits for ${s.needs} branches and has ${s.branches.length}.`,
        "needs",
      );
    if (s.until === "")
      say("error", "no-until", `Say when enough branches of "${s.name}" have ended.`, "until");
    if (s.branches.length >= 2) return;
    const has = s.branches.length === 1 ? "one branch" : "no branches";
    say("warning", "one-branch", `"${s.name}" has ${has}; side by side needs two.`);
  },
  exit: () => null,
  // One branch that always ends the request keeps all of it from going on.
  goesOn: (s, list) =>
    early(s)
      ? s.branches.some((b) => b.when || list(b.steps))
      : s.branches.every((b) => b.when || list(b.steps)),
  passes: false,
  enter(turn, s) {
    const opened: string[] = [];
    const left: TogetherNews["left"] = [];
    for (const b of s.branches) {
      const { yes, why } = b.when ? turn.holds(`branch ${b.id}`, b.when) : { yes: true, why: [] };
      if (yes) opened.push(b.id);
      else left.push({ branch: b.id, name: b.name, why });
    }
    turn.did({ kind: "together", opened, left });
    return { go: "side by side", lists: opened };
  },
  news: {
    line: (n, step) =>
      n.left.length > 0
        ? { text: `${step}: not needed: ${names(n)}`, why: n.left.flatMap((l) => l.why) }
        : { text: `${step}: ${n.opened.length} side by side`, quiet: true },
    outcome: (n) => (n.left.length > 0 ? `without ${names(n)}` : ""),
    lists: (n) => n.opened,
  },
};
const names = (n: TogetherNews) => n.left.map((l) => l.name).join(", ");
