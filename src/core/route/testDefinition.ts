import { KINDS } from "@/kinds";
import { applyEdit, type Edit, type ProcessDefinition, type Step } from ".";
import { CheckCache, problemsOf as check, type Problem } from "../problems";
import type { OfficeFacts } from "../kinds";

export const fin = (id: string, result = "done"): Step => ({
  id,
  name: "Finish",
  kind: "finish",
  result,
  tone: "agree",
});
export const base: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "t",
  name: "Test",
  purpose: "",
  owners: ["una"],
  numbering: { prefix: "TEST", digits: 4 },
  title: "For {Requester.name}: {Total}",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  samples: [],
  fields: [
    {
      id: "sec",
      name: "Section",
      kind: "section",
      fields: [
        { id: "total", name: "Total", kind: "money" },
        { id: "urgent", name: "Urgent", kind: "yes or no" },
      ],
    },
    {
      id: "lines",
      name: "Lines",
      kind: "lines",
      fields: [
        { id: "price", name: "Price", kind: "money" },
        { id: "qty", name: "Quantity", kind: "number" },
        { id: "lt", name: "Line total", kind: "money", worked: "Price * Quantity" },
      ],
    },
    { id: "grand", name: "Grand", kind: "money", worked: "sum(Lines.Line total) + Total" },
  ],
  access: { d1: { total: "edit" } },
  route: [
    {
      id: "d1",
      name: "Check",
      kind: "decide",
      who: { rule: { by: "manager" }, how: "one" },
      answers: [
        { id: "yes", label: "Yes", tone: "agree", steps: [] },
        { id: "no", label: "No", tone: "refuse", steps: [fin("f1", "no")] },
      ],
    },
    {
      id: "c1",
      name: "By amount",
      kind: "choose",
      ways: [
        { id: "w1", name: "small", when: "Total < 500", steps: [fin("f2", "small")] },
        { id: "w2", name: "other", steps: [] },
      ],
    },
    {
      id: "g1",
      name: "Both",
      kind: "together",
      branches: [
        {
          id: "b1",
          name: "a",
          when: "Urgent",
          steps: [
            {
              id: "t1",
              name: "Tell",
              kind: "tell",
              who: { by: "requester" },
              subject: "{Total}",
              text: "",
              ways: [],
            },
          ],
        },
        { id: "b2", name: "b", steps: [] },
      ],
    },
    fin("f3"),
  ],
};
export const AROUND = { registers: {}, kinds: KINDS };
export const problemsOf = (d: ProcessDefinition, office?: OfficeFacts, cache?: CheckCache): Problem[] =>
  check(d, { ...AROUND, ...(office ? { office } : {}), ...(cache ? { cache } : {}) });
export const apply = (d: ProcessDefinition, e: Edit) => {
  const r = applyEdit(d, e, AROUND);
  if (!r.ok) throw new Error(r.refusal.code);
  return r;
};
export const errors = (d: ProcessDefinition) =>
  problemsOf(d)
    .filter((p) => p.severity === "error")
    .map((p) => p.code);
export const withRoute = (...route: Step[]): ProcessDefinition => ({ ...base, route });
