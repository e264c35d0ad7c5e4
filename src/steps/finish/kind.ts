import type { StepBehaviour } from "@/core/kinds";

/** Ends the request with a result. */
export const finish: StepBehaviour<"finish"> = {
  verb: "Finish",
  says: "end with a result",
  blank: (id) => ({ id, name: "Finish", kind: "finish", result: "done", tone: "agree" }),
  lists: null,
  asks: null,
  formulas: (s) => s,
  steps: (s) => s,
  sets: () => [],
  problems(s, { say }) {
    if (!s.result.trim()) say("error", "no-result", "Name the result, for example: approved.", "result");
  },
  exit: (s) => ({ ends: s.result, tone: s.tone }),
  goesOn: () => false,
  passes: false,
  enter: (_, s) => ({ go: "end", result: s.result, tone: s.tone }),
};
