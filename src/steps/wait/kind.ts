import { DATE, DATETIME } from "@/core/expression";
import type { StepBehaviour } from "@/core/kinds";

/** Sleeps until the first of several moments. */
export const wait: StepBehaviour<"wait"> = {
  verb: "Wait",
  says: "for a length of time, or until a date",
  blank: (id) => ({
    id,
    name: "Pause",
    kind: "wait",
    for: [{ id: `${id}-1`, length: { amount: 1, unit: "working days" } }],
  }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    for: s.for.map((a) => {
      if ("date" in a)
        return {
          ...a,
          date: walk.formula({ place: `date ${a.id}`, says: "the date it waits for", wants: DATE }, a.date),
        };
      if ("moment" in a)
        return {
          ...a,
          moment: walk.formula(
            { place: `moment ${a.id}`, says: "the moment it waits for", wants: DATETIME },
            a.moment,
          ),
        };
      return a;
    }),
  }),
  steps: (s) => s,
  sets: () => [],
  problems(s, { say }) {
    if (s.for.length === 0) say("error", "waits-for-nothing", `"${s.name}" waits for nothing.`, "for");
    for (const a of s.for)
      if (("date" in a && !a.date.trim()) || ("moment" in a && !a.moment.trim()))
        say("error", "no-moment", `Say until when "${s.name}" waits.`, "for");
  },
  exit: () => null,
  goesOn: () => true,
  passes: false,
  enter(turn, s) {
    const moments = s.for.flatMap((a): number[] => {
      const at = "length" in a ? turn.after(a.length) : turn.momentOf(turn.value(...placeOf(a)));
      return at === null ? [] : [at];
    });
    // Of several those that are empty do not come; where all are, nothing ever would.
    if (moments.length === 0) return { go: "stuck", reason: { code: "no-moment", data: { step: s.name } } };
    const until = moments.reduce((a, b) => Math.min(a, b));
    if (until > turn.now()) return { go: "sleeps", until };
    turn.did({ kind: "wait", passed: true });
    return { go: "on" };
  },
  woken: () => ({ go: "on" }),
  news: {
    line: (_, step) => ({ text: `${step}: the moment had come already`, quiet: true }),
    outcome: () => "had come already",
    lists: () => [],
  },
  reasons: {
    "no-moment": (d) => `"${d.step}" does not know until when it waits: what it waits for is empty.`,
  },
};

const placeOf = (a: { id: string } & ({ date: string } | { moment: string })): [string, string] =>
  "date" in a ? [`date ${a.id}`, a.date] : [`moment ${a.id}`, a.moment];
