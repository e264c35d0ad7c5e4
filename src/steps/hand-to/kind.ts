import { context, nameMistake, TEXT, type Type } from "@/core/expression";
import { broken, type StepBehaviour, type StepProblems } from "@/core/kinds";
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
  formulas: (s, walk) => ({
    ...s,
    values: s.values.map((v) => {
      const port = s.takes.find((p) => p.id === v.port);
      return {
        ...v,
        value: walk.formula(
          {
            place: `value ${v.port}`,
            says: `what is handed over as “${port?.name ?? v.port}”`,
            wants: { port: port ?? null },
          },
          v.value,
        ),
      };
    }),
  }),
  steps: (s) => s,
  sets: () => [],
  gives: (s, types) => {
    const back: Record<string, Type> = { [RESULT]: TEXT };
    for (const p of s.gives) back[p.name] = types.field(p);
    return context(back);
  },
  calls: {
    to: (s) => (s.procedure ? { procedure: s.procedure, version: s.version ?? null } : null),
    knows: (s) => ({ takes: s.takes, gives: s.gives, given: given(s) }),
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
      inputs: s.values
        .filter((v) => v.value.trim() !== "")
        .map((v) => ({ field: v.port, place: `value ${v.port}`, formula: v.value })),
    };
  },
};

/** What a formula is written for. */
const given = (s: Step): ReadonlySet<string> =>
  new Set(s.values.filter((v) => v.value.trim() !== "").map((v) => v.port));

function problems(s: Step, { say, procedures }: StepProblems) {
  if (!s.procedure)
    return say("error", "no-procedure", "Say which procedure the request goes through.", "procedure");
  const handed = given(s);
  for (const p of s.takes)
    if (p.needed && !handed.has(p.id))
      say(
        "error",
        "not-given",
        `“${p.name}” is needed by the procedure, and nothing is handed over for it.`,
        `value ${p.id}`,
      );
  for (const v of s.values)
    if (v.value.trim() && !s.takes.some((p) => p.id === v.port))
      say(
        "error",
        "unknown-port",
        "The procedure does not take this value. Take the row away.",
        `value ${v.port}`,
      );
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
  if (!live)
    return say(
      "error",
      "not-live",
      "This procedure is not live: release it first, or choose another.",
      "procedure",
    );
  if (s.version && !live.versions.includes(s.version))
    say("error", "no-version", `“${live.name}” was never released as ${s.version}.`, "procedure");
  if (s.version) return;
  const mistakes = broken(s, handed, live);
  if (
    mistakes.length === 0 &&
    JSON.stringify([s.takes, s.gives]) === JSON.stringify([live.takes, live.gives])
  )
    return;
  const mend = {
    label: "Take over what it takes and hands back now",
    edit: { op: "step.set", id: s.id, patch: { takes: [...live.takes], gives: [...live.gives] } } as const,
  };
  if (mistakes.length > 0)
    say(
      "error",
      "other-ports",
      `“${live.name}” is otherwise by now: ${mistakes.join("; ")}.`,
      "procedure",
      mend,
    );
  else
    say(
      "warning",
      "new-ports",
      `“${live.name}” takes or hands back more by now, or under other names. Formulas read it as it was.`,
      "procedure",
      mend,
    );
}
