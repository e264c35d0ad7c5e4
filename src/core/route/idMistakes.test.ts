import { idMistakes } from "./idMistakes";
import { base } from "./testDefinition";

const told = (more: object) =>
  idMistakes({ ...base, ...more } as never).map((m) => `${m.what} ${m.id} ${m.why}`);
const decide = (id: string, answers: object[], more: object = {}) => ({
  id,
  kind: "decide",
  name: id,
  answers,
  ...more,
});
const to = (id: string, steps: object[] = []) => ({ id, label: id, tone: "agree", steps });

it("says nothing where all ids tell things apart; the same answer at two steps is none of that", () => {
  expect(told({})).toEqual([]);
  expect(told({ route: [decide("a", [to("yes")]), decide("b", [to("yes")])] })).toEqual([]);
});

it.each<[string, object, string[]]>([
  [
    "steps, however deep",
    { route: [decide("a", [to("yes", [decide("b", [to("yes", [decide("a", [])])])])])] },
    ["step a twice"],
  ],
  [
    "answers of one step",
    { route: [decide("a", [to("yes"), to("yes")])] },
    ["answer, way or branch yes twice"],
  ],
  [
    "rungs of one step",
    { route: [decide("a", [to("yes")], { limit: { rungs: [{ id: "r" }, { id: "r" }] } })] },
    ["rung r twice"],
  ],
  ["fields and columns", { fields: [{ id: "x" }, { id: "l", fields: [{ id: "x" }] }] }, ["field x twice"]],
  [
    "ladders and their rungs",
    {
      ladders: [
        { id: "k", rungs: [{ id: "r" }, { id: "r" }] },
        { id: "k", rungs: [{ id: "r" }] },
      ],
    },
    ["rung r twice", "ladder k twice"],
  ],
  ["samples", { samples: [{ id: "s" }, { id: "s" }] }, ["sample s twice"]],
  ["starts", { starts: [{ id: "s" }, { id: "s" }] }, ["start s twice"]],
  [
    "what means something else",
    { route: [decide("start", [])], fields: [{ id: "__proto__" }] },
    ["field __proto__ reserved", "step start reserved"],
  ],
])("finds %s", (_, more, want) => expect(told(more)).toEqual(want));
