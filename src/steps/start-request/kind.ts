import { context, nameMistake, TEXT, type Type } from "@/core/expression";
import {
  bindingFormulas,
  bindingProblems,
  givenBy,
  outdatedProblems,
  valuesGiven,
  type StepBehaviour,
  type StepProblems,
  type StoredValue,
} from "@/core/kinds";
import type { StepOf } from "@/core/route";
import type { StartRequestResult } from "./shape";

type Step = StepOf<"start request">;

/** What the name of the step reads beside what is handed back: the request's number, and what it ended with. */
export const NUMBER = "number";
export const RESULT = "result";

/** Starts a request of another process. */
export const startRequest: StepBehaviour<"start request"> = {
  verb: "Start request",
  says: "of another process, and wait for its end or not",
  blank: (id) => ({
    id,
    name: "Other request",
    kind: "start request",
    process: "",
    takes: [],
    gives: [],
    values: [],
    waits: true,
    endsWith: true,
  }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({ ...s, values: bindingFormulas(s, walk) }),
  steps: (s) => s,
  sets: () => [],
  gives(s, types) {
    const back: Record<string, Type> = { [NUMBER]: TEXT };
    if (!s.waits) return context(back);
    back[RESULT] = TEXT;
    for (const p of s.gives) back[p.name] = types.port(p);
    return context(back);
  },
  begins: {
    to: (s) => s.process || null,
    knows: (s) => ({ takes: s.takes, gives: s.waits ? s.gives : [], given: givenBy(s) }),
  },
  problems,
  exit: () => null,
  goesOn: () => true,
  passes: true,
  enter(turn, s) {
    // What an earlier time came to must not be taken for what this one does.
    turn.keep({ value: null });
    const { process, waits, endsWith, asProcess } = s;
    const values = valuesGiven(s).map(
      ({ field, place, formula }) =>
        [field, turn.stored(place, formula, turn.value(place, formula))] as const,
    );
    const as = asProcess ? { asProcess } : {};
    return { go: "waits", work: { kind: "start request", process, values, waits, endsWith, ...as } };
  },
  done(turn, s, came) {
    turn.keep({ value: { entries: entriesOf(s, came) } });
    return { go: "on" };
  },
  rehearse: () => ({ number: "", result: null, values: [] }),
  tells: () => [],
  forget: {
    work: (w) => ({ ...w, values: [] }),
    result: (r) => ({ ...r, values: [] }),
  },
  doneWords({ number, result }, step) {
    return {
      text: result === null ? `${step}: ${number} was started` : `${step}: ${number} ended, ${result}`,
    };
  },
  reasons: {
    "not-started": (d) => `"${d.step}" could not start its request: ${d.message}`,
  },
};

function entriesOf(s: Step, came: StartRequestResult): (readonly [string, StoredValue])[] {
  const number = [NUMBER, came.number || null] as const;
  if (!s.waits) return [number];
  const values = new Map(came.values);
  return [number, [RESULT, came.result], ...s.gives.map((p) => [p.name, values.get(p.id) ?? null] as const)];
}

function problems(s: Step, { definition, say, procedures }: StepProblems) {
  if (!s.process) return say("error", "no-process", "Say which process a request is started of.", "process");
  bindingProblems(s, "the process", say);
  const mistake = nameMistake(s.name);
  if (mistake !== null)
    say("error", "bad-name", `What comes back is read by the name of the step. ${mistake}`, "name");
  // Without the office nothing is known of what is live.
  if (!procedures) return;
  const live = Object.hasOwn(procedures, s.process) ? procedures[s.process] : undefined;
  if (!live?.from)
    return say(
      "error",
      "not-live",
      "This process is not live, or lets no other start one. Its owners say so on its page About: who may ask.",
      "process",
    );
  if (live.from !== "any" && !live.from.includes(definition.key))
    return say(
      "error",
      "may-not-start",
      `“${live.name}” lets only some processes start one, and this is none of them. Ask its owners.`,
      "process",
    );
  const edit = (ports: Pick<Step, "takes" | "gives">) =>
    ({ op: "step.set", id: s.id, patch: ports }) as const;
  // What is not waited for is not read either.
  const read = (gives: Step["gives"]) => (s.waits ? gives : []);
  outdatedProblems({ ...s, gives: read(s.gives) }, { ...live, gives: read([...live.gives]) }, say, {
    at: "process",
    edit,
  });
}
