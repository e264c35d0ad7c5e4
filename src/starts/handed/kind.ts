import type { StartBehaviour } from "@/core/kinds";

/** A step of another process starts one. */
export const handed: StartBehaviour<"handed"> = {
  says: "a step of another process starts one",
  offer: "steps of other processes start one",
  several: false,
  blank: (id) => ({ id, kind: "handed", from: { by: "any" } }),
  mayStart: () => false,
  lets: (s) => (s.from.by === "any" ? "any" : s.from.processes),
  formulas: (s) => s,
  problems(s, { say }) {
    if (s.from.by === "these" && s.from.processes.length === 0)
      say("error", "no-process", "Say which processes may start one, or let any of them.", "from");
  },
  words(s) {
    if (s.from.by === "any") return "another process hands it its values";
    const n = s.from.processes.length;
    return `${n === 1 ? "one other process hands" : `${n} other processes hand`} it its values`;
  },
};
