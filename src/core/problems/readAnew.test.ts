import { problemsOf } from ".";
import type { Field } from "../form";
import type { ProcessDefinition, Step } from "../route";
import { KINDS } from "@/kinds";

const money = (id: string, more: Partial<Field>): Field => ({ id, name: id, kind: "money", ...more });
const LINES: Field = {
  id: "lines",
  name: "lines",
  kind: "lines",
  fields: [money("copy", { worked: "typed", copied: true }), money("typed", {})],
};
const process = (anew: string[], kind: "decide" | "complete"): ProcessDefinition => {
  const blank = KINDS.steps[kind].blank("d") as Step;
  return {
    format: "cobble-step/process@2",
    key: "walls",
    name: "Walls",
    purpose: "",
    owners: ["una"],
    numbering: { prefix: "W", digits: 3 },
    title: "",
    starts: [{ id: "f", kind: "form", who: { by: "everybody" } }],
    fields: [money("fixed", { worked: "1", fixed: true }), money("live", { worked: "1" }), LINES],
    access: {},
    route: [
      blank.kind === "decide"
        ? { ...blank, answers: blank.answers.map((a, i) => (i === 0 ? { ...a, anew } : a)) }
        : ({ ...blank, anew } as Step),
    ],
    samples: [],
  };
};
const told = (anew: string[], kind: "decide" | "complete" = "decide") =>
  problemsOf(process(anew, kind), { kinds: KINDS, registers: {} }).flatMap((p) =>
    p.code === "anew-lost" ? [`${p.severity} ${p.where.place} ${p.message}`] : [],
  );

it("what an answer reads anew keeps its value and is in the form, also as a column", () => {
  expect(told(["fixed", "copy"])).toEqual([]);
  expect(told(["live", "typed", "gone"])).toEqual([
    expect.stringMatching(/^error answers “Approve” reads "live" anew, which is no copy/),
    expect.stringMatching(/^error answers “Approve” reads "typed" anew/),
    expect.stringMatching(/^error answers “Approve” reads something anew that is not in the form/),
  ]);
  expect(told(["live"], "complete")).toHaveLength(1);
});
