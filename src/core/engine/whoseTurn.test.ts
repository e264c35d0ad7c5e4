import type { Rule, Step } from "../route";
import { loadsKey, type Loads } from "./loads";
import { ans, definitionOf, fin, harness } from "./testRequest";

const REGISTRY: Rule = { by: "group", group: "registry" };
const check: Step = {
  id: "check",
  name: "check",
  kind: "decide",
  who: { rule: REGISTRY, how: "one", turns: "in turn" },
  answers: [ans("yes", "agree")],
};
const each: Step = {
  id: "each",
  name: "each",
  kind: "for each",
  over: { times: "3" },
  atOnce: 1,
  item: "Item",
  bodies: [{ id: "body", steps: [check] }],
};
const asked = {
  by: "in turn" as const,
  process: "test",
  step: "check",
  people: ["carmel", "declan", "fergus"],
};

it("what the request itself gave before is known from outside, and not counted a second time", () => {
  let loads: Loads = {};
  const h = harness(definitionOf([each, fin("end", "approved")]), {}, {}, () => ({
    loads: { [loadsKey(asked)]: loads },
  }));
  h.start();
  expect(h.asked()).toEqual(["carmel"]);
  h.at(Date.UTC(2026, 2, 3, 12));
  // Others have been given it since, so that it is carmel's turn again.
  loads = { carmel: { open: 0, last: 1 }, declan: { open: 0, last: 2 }, fergus: { open: 0, last: 3 } };
  h.answer("carmel", "yes");
  expect(h.asked()).toEqual(["carmel"]);
});

it("one of several is who is told at once that it is theirs: the others have nothing to take", () => {
  const h = harness(definitionOf([check, fin("end", "approved")]), {}, {}, () => ({ loads: {} }));
  h.start();
  expect(h.open()[0]).toMatchObject({ candidates: [{ person: "carmel" }], holder: "carmel", turn: "carmel" });
});

it("where nothing is known of others, as for a sample, all are shown who could be asked", () => {
  const h = harness(definitionOf([check, fin("end", "approved")]));
  h.start();
  expect(h.asked()).toEqual(["carmel|declan|fergus"]);
});
