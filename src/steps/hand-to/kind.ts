import { context, nameMistake, TEXT, type Type } from "@/core/expression";
import {
  bindingFormulas,
  bindingProblems,
  givenBy,
  outdatedProblems,
  valuesGiven,
  type StepBehaviour,
  type StepProblems,
} from "@/core/kinds";
import type { StepOf } from "@/core/route";

type Step = StepOf<"hand to">;

/** What the name of the step reads beside what the procedure hands back: the result it ended with. */
export const RESULT = "result";

/** Goes through a procedure. */
export const handTo: StepBehaviour<"hand to"> = {
  verb: "Hand to",
  says: "go through a procedure and read what it hands back",
  blank: (id) => ({
    id,
    name: "Hand over",
    kind: "hand to",
    procedure: "",
    takes: [],
    gives: [],
    values: [],
  }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({ ...s, values: bindingFormulas(s, walk) }),
  steps: (s) => s,
  sets: () => [],
  gives: (s, types) => {
    const back: Record<string, Type> = { [RESULT]: TEXT };
    for (const p of s.gives) back[p.name] = types.port(p);
    return context(back);
  },
  calls: {
    to: (s) => (s.procedure ? { procedure: s.procedure, version: s.version ?? null } : null),
    knows: (s) => ({ takes: s.takes, gives: s.gives, given: givenBy(s) }),
    came(turn, s, result, values) {
      turn.keep({
        value: {
          entries: [[RESULT, result], ...s.gives.map((p) => [p.name, values.get(p.id) ?? null] as const)],
        },
      });
      return { go: "on" };
    },
  },
  problems,
  exit: () => null,
  goesOn: () => true,
  passes: false,
  enter(turn, s) {
    // What an earlier time came to must not be taken for what this one does.
    turn.keep({ value: null });
    return {
      go: "calls",
      procedure: s.procedure,
      version: s.version ?? null,
      inputs: valuesGiven(s),
    };
  },
};

function problems(s: Step, { say, procedures }: StepProblems) {
  if (!s.procedure)
    return say("error", "no-procedure", "Say which procedure the request goes through.", "procedure");
  bindingProblems(s, "the procedure", say);
  const mistake = nameMistake(s.name);
  if (mistake !== null)
    say(
      "error",
      "bad-name",
      `What the procedure hands back is read by the name of the step. ${mistake}`,
      "name",
    );
  // Without the office nothing is known of what is live.
  if (!procedures) return;
  const live = Object.hasOwn(procedures, s.procedure) ? procedures[s.procedure] : undefined;
  if (!live || live.from)
    return say(
      "error",
      "not-live",
      "This procedure is not live: release it first, or choose another.",
      "procedure",
    );
  if (s.version && !live.versions.includes(s.version))
    say("error", "no-version", `“${live.name}” was never released as ${s.version}.`, "procedure");
  if (s.version) return;
  const edit = (ports: Pick<Step, "takes" | "gives">) =>
    ({ op: "step.set", id: s.id, patch: ports }) as const;
  outdatedProblems(s, live, say, { at: "procedure", edit });
}
