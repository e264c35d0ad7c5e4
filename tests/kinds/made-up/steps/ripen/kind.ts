import { NUMBER, valueText } from "@/core/expression";
import type { StepBehaviour } from "@/core/kinds";

export const ripen: StepBehaviour<"ripen"> = {
  verb: "Ripen",
  says: "leave something until it is good",
  blank: (id) => ({ id, name: "Ripen", kind: "ripen", register: "", days: "3" }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    days: walk.formula({ place: "days", says: "how long", wants: NUMBER }, s.days),
  }),
  steps: (s) => s,
  sets: () => [],
  searches: (s) => ({ register: s.register, columns: [] }),
  problems(s, { registers, say }) {
    if (!registers[s.register])
      say("error", "no-register", `There is no register "${s.register}".`, "register");
  },
  exit: () => null,
  goesOn: () => true,
  passes: true,
  enter: (turn, s) => ({
    go: "waits",
    work: { kind: "ripen", days: valueText(turn.value("days", s.days)) },
  }),
  done(turn, s, { taste }) {
    turn.did({ kind: "ripen", taste });
    return taste === "off"
      ? { go: "stuck", reason: { code: "went-off", data: { step: s.name } } }
      : { go: "on" };
  },
  rehearse: () => ({ taste: "good" }),
  tells: () => [],
  forget: { work: (w) => w, result: (r) => r },
  doneWords: ({ taste }, step) => ({ text: `${step}: tastes ${taste}` }),
  news: {
    line: (n, step) => ({ text: `${step} was ${n.taste}` }),
    outcome: (n) => n.taste,
    lists: () => [],
  },
  reasons: { "went-off": (d) => `"${d.step}" went off. Throw it away and start again.` },
};
