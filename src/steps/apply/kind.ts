import { givesList, ranks, type TableOutput } from "@/core/decision";
import { context, DATE, listOf, NUMBER, TEXT, YESNO, ANY, type Type } from "@/core/expression";
import type { StepBehaviour, StepTurn } from "@/core/kinds";
import { knownTexts } from "./knownTexts";
import { inputPlace, OTHERWISE, testPlace, valuePlace } from "./places";
import { problems } from "./problems";
import type { Apply } from "./shape";
import { inputValues, missingInput, worked, type Working } from "./worked";

const TYPES: Readonly<Record<TableOutput["kind"], Type>> = {
  text: TEXT,
  number: NUMBER,
  "yes or no": YESNO,
  date: DATE,
  anything: ANY,
};

/** Rules by inputs and outputs, instead of formulas within one another. */
export const apply: StepBehaviour<"apply"> = {
  verb: "Apply",
  says: "a decision table: rules by inputs and outputs",
  blank: (id) => ({
    id,
    name: "Table",
    kind: "apply",
    inputs: [{ id: "i1", formula: "" }],
    outputs: [{ id: "o1", name: "Result", kind: "text" }],
    hits: "unique",
    rules: [{ id: "r1", when: [], then: [] }],
  }),
  lists: null,
  asks: null,
  formulas(s, walk) {
    // Tests are walked with the inputs as they were: what a test reads as `?` is what the input came to then.
    const inputs = new Map(s.inputs.map((i) => [i.id, i.formula]));
    const outputs = new Map(s.outputs.map((o) => [o.id, o]));
    const value = (rule: string, says: string, c: Apply["rules"][number]["then"][number]) => {
      const o = outputs.get(c.output);
      return {
        ...c,
        value: walk.formula(
          {
            place: valuePlace(rule, c.output),
            says: `what “${o?.name ?? c.output}” is ${says}`,
            wants: o ? TYPES[o.kind] : ANY,
          },
          c.value,
        ),
      };
    };
    return {
      ...s,
      inputs: s.inputs.map((i, n) => ({
        ...i,
        formula: walk.formula({ place: inputPlace(i.id), says: `input ${n + 1}`, wants: ANY }, i.formula),
      })),
      rules: s.rules.map((r, n) => ({
        ...r,
        when: r.when.map((c) => ({
          ...c,
          test: walk.formula(
            {
              place: testPlace(r.id, c.input),
              says: `the test of rule ${n + 1}`,
              wants: YESNO,
              reads: { tests: inputs.get(c.input) ?? "" },
            },
            c.test,
          ),
        })),
        then: r.then.map((c) => value(r.id, `by rule ${n + 1}`, c)),
      })),
      ...(s.otherwise
        ? { otherwise: s.otherwise.map((c) => value(OTHERWISE, "where no rule holds", c)) }
        : {}),
    };
  },
  steps: (s) => s,
  sets: () => [],
  gives(s) {
    const one: Record<string, Type> = {};
    for (const o of s.outputs) one[o.name] = s.gathers === undefined ? typeOf(s, o) : NUMBER;
    return givesList(s) ? listOf(context(one)) : context(one);
  },
  problems,
  exit: () => null,
  goesOn: () => true,
  mayBeNothing: (s) => s.none === "empty" && !s.otherwise && !givesList(s),
  passes: true,
  enter(turn, s) {
    const working: Working = {
      names: () => turn.names(),
      value(place, text, names) {
        const value = turn.value(place, text, names);
        // What is given is kept; what is tested is not.
        if (text && names === undefined) turn.stored(place, text, value);
        return value;
      },
    };
    const values = inputValues(s, working);
    const missing = missingInput(s, values);
    if (missing >= 0)
      return {
        go: "stuck",
        reason: { code: "needs-input", data: { step: s.name, input: s.inputs[missing]!.formula } },
      };
    const result = worked(s, working, values);
    if ("failure" in result) {
      const { code, data } = result.failure;
      const reason = { code, data: { ...data, step: s.name } } as Extract<
        ReturnType<typeof apply.enter>,
        { go: "stuck" }
      >["reason"];
      return { go: "stuck", reason };
    }
    const why = s.inputs.flatMap((i) => turn.holds(inputPlace(i.id), i.formula).why);
    turn.did({ kind: "apply", rules: result.rules, why });
    turn.keep({ value: keptAs(turn, s, result.value) });
    return { go: "on" };
  },
  news: {
    line: (n, step) => ({ text: `${step}: ${rulesSaid(n.rules)}`, why: n.why }),
    outcome: (n) => rulesSaid(n.rules),
    lists: () => [],
  },
  reasons: {
    "several-rules": (d) =>
      `Rules ${d.first} and ${d.second} of “${d.step}” both hold, and only one of its rules may.`,
    "rules-differ": (d) =>
      `Rules ${d.first} and ${d.second} of “${d.step}” both hold and come to different things for “${d.output}”.`,
    "no-rule": (d) => `No rule of “${d.step}” holds, and nothing is said for that.`,
    "no-rank": (d) =>
      `“${d.output}” of rule ${d.rule} of “${d.step}” has no rank: ${d.value === "" ? "it is no text" : `“${d.value}” is none of its values`}.`,
    "no-number": (d) =>
      `“${d.output}” of rule ${d.rule} of “${d.step}” is no number, so that nothing can be counted together.`,
    "needs-input": (d) => `“${d.input}” is empty, and “${d.step}” needs it.`,
  },
};

function rulesSaid(rules: readonly number[]): string {
  if (rules.length === 0) return "no rule holds";
  if (rules.length === 1) return `rule ${rules[0]!}`;
  return `rules ${rules.slice(0, -1).join(", ")} and ${rules.at(-1)!}`;
}

/** A text whose values are all written out is one of those. */
function typeOf(s: Apply, o: TableOutput): Type {
  if (o.kind !== "text") return TYPES[o.kind];
  // Where no rule holds nothing is ranked: what stands in the last row need be none of the values.
  const rules = ranks(s.hits) && o.values ? o.values : knownTexts({ rules: s.rules }, o);
  const last = s.otherwise ? knownTexts({ rules: [], otherwise: s.otherwise }, o) : [];
  const options = rules && last && [...new Set([...rules, ...last])];
  return options && options.length > 0 ? { t: "text", options } : TEXT;
}

/** What is read by the name of the step, of which every part was looked at already. */
function keptAs(turn: StepTurn<"apply">, s: Apply, value: Parameters<typeof turn.stored>[2]) {
  const [input] = s.inputs;
  return turn.stored(input ? inputPlace(input.id) : "", input?.formula ?? "", value);
}
