import type { Field } from "../form";
import type { Assignment, Rule, Step } from "../route";
import { KINDS } from "@/kinds";
import { compileRelease } from "./release";
import { engineFacts, type OfficeData } from "./office";
import { OFFICE_HOURS } from "./testOffice";
import { ans, decideBy, definitionOf, fin, T0 } from "./testRequest";
import { tryForAll } from "./tryForAll";

const IDS = ["una", "brendan", "carmel"];
/** Una's manager is brendan, and so is carmel's; he has none. */
const office = (): OfficeData => ({
  people: IDS.map((id) => ({
    id,
    name: id,
    manager: id === "brendan" ? null : "brendan",
    calendar: null,
    active: true,
  })),
  groups: [],
  duties: [{ duty: "Keeper", person: "carmel", place: "Loft" }],
  absences: [],
  calendars: [OFFICE_HOURS],
  mailboxes: [],
});
const FIELDS: Field[] = [
  { id: "store", name: "Store", kind: "choice", options: ["Loft", "Cellar", "Yard"] },
  { id: "urgent", name: "Urgent", kind: "yes or no" },
  { id: "word", name: "Word", kind: "text" },
];
const asks = (id: string, rule: Rule, who: Partial<Assignment> = {}): Step =>
  ({ ...decideBy(id, rule, [ans("yes", "agree")]), who: { rule, how: "one", ...who } }) as Step;
function tried(route: Step[], data = {}, fields = FIELDS, most = 10_000) {
  const release = compileRelease(definitionOf([...route, fin("end", "done")], { fields }), {}, KINDS);
  const people = Object.fromEntries(
    IDS.map((id) => [id, { id, name: id, email: "", jobTitle: "", department: "", site: "" }]),
  );
  const facts = engineFacts(office(), { people, registers: {}, records: {} }, T0, KINDS.fields);
  const walk = tryForAll(release, facts, data, most);
  let yields = 0;
  for (let n = walk.next(); ; n = walk.next()) {
    if (n.done) return { of: n.value, yields };
    yields++;
  }
}

it("whose request finds nobody is told, of everybody who may ask", () => {
  const [a] = tried([asks("a", { by: "manager" })]).of;
  expect(a).toMatchObject({ step: "a", trials: 3, nobody: 1, first: [{ person: "brendan", chosen: [] }] });
});
it("with every value of the choices its rules read, and of no others", () => {
  const keeper: Rule = { by: "duty", duty: "Keeper", place: "Store" };
  const [a] = tried([asks("a", keeper)]).of;
  // Of the loft's keeper only carmel's own request is without anybody.
  expect(a).toMatchObject({ trials: 9, nobody: 7, untried: [] });
  expect(a!.first[0]).toEqual({ person: "carmel", chosen: [["Store", "Loft"]] });
});
it("what its rules read besides is named, and stays as it is", () => {
  const rule: Rule = { by: "people", where: "Name = Word" };
  expect(tried([asks("a", rule)], { word: "carmel" }).of[0]).toMatchObject({
    trials: 3,
    nobody: 1,
    untried: ["Word"],
  });
});
it("a step that hangs on who answered another is not tried, one that only never asks them is", () => {
  const [, then, other] = tried([
    asks("a", { by: "manager" }),
    asks("then", { by: "answered", step: "a" }),
    asks("other", { by: "person", person: "carmel" }, { never: [{ by: "answered", step: "a" }] }),
  ]).of;
  expect(then).toMatchObject({ hangs: true, trials: 0 });
  expect(other).toMatchObject({ hangs: false, trials: 3, nobody: 1 });
});
it("whom it asks where that cannot be worked out is counted apart", () => {
  expect(tried([asks("a", { by: "people", where: "1 / 0 > 1" })]).of[0]).toMatchObject({
    trials: 3,
    nobody: 0,
    unclear: 3,
  });
});
it("no more is tried than there is time for, and what is left out is named", () => {
  const wide = Array.from({ length: 6 }, (_, i): Field => ({
    id: `f${i}`,
    name: `F${i}`,
    kind: "choice",
    options: Array.from({ length: 12 }, (_, k) => `o${k}`),
  }));
  const rule: Rule = { by: "people", where: wide.map((f) => `${f.name} = "o1"`).join(" and ") };
  const { of, yields } = tried([asks("a", rule)], {}, wide, 1000);
  expect(of[0]!.untried).toEqual(["F2", "F3", "F4", "F5"]);
  expect(of[0]!.trials).toBe(3 * 12 ** 2);
  // Whoever drives it is let in before each.
  expect(yields).toBe(of[0]!.trials);
});
it("people there is no time for are counted, and not taken for tried", () => {
  const route = ["a", "b"].map((id) => asks(id, { by: "manager" }));
  for (const t of tried(route, {}, FIELDS, 4).of) expect(t).toMatchObject({ trials: 2, left: 1 });
});
it("what rules read of a step that works at once is worked out for each, with every choice that step reads", () => {
  const table: Step = {
    id: "t",
    name: "Handling",
    kind: "apply",
    inputs: [{ id: "i", formula: "Store" }],
    outputs: [{ id: "o", name: "Who", kind: "anything" }],
    hits: "first",
    rules: [
      {
        id: "r1",
        when: [{ input: "i", test: '"Loft"' }],
        then: [{ output: "o", value: 'holders of("Keeper", Store)' }],
      },
      { id: "r2", when: [], then: [{ output: "o", value: "null" }] },
    ],
  };
  const via: Step = {
    id: "v",
    name: "Via",
    kind: "work out",
    set: [],
    own: [{ name: "Who", value: "Handling.Who" }],
  };
  const route = [table, via, asks("a", { by: "formula", formula: "Via.Who" })];
  const [a] = tried(route).of;
  expect(a).toMatchObject({ hangs: false, trials: 9, nobody: 7 });
  expect(a!.first[0]).toEqual({ person: "carmel", chosen: [["Store", "Loft"]] });
  // Who decides what another step comes to is not known before.
  const behind = asks("b", { by: "formula", formula: "a.by" });
  expect(tried([...route, behind]).of[1]).toMatchObject({ step: "b", hangs: true, trials: 0 });
});

describe("asked twice in a row", () => {
  const MANAGER: Rule = { by: "manager" };
  const twice = (route: Step[], data = {}) =>
    tried(route, data).of.flatMap((t) => t.twice.map((x) => [x.before, t.step, x.count]));
  it("is whoever a step asks that another asks right behind it", () => {
    const both = [asks("a", MANAGER), asks("b", { by: "person", person: "brendan" })];
    // Brendan has no manager, and nobody is asked about their own.
    expect(tried(both).of[1]!.twice).toEqual([
      {
        before: "a",
        count: 2,
        first: [
          { person: "una", asked: "brendan" },
          { person: "carmel", asked: "brendan" },
        ],
      },
    ]);
  });
  it("is not where somebody else is asked in between, nor beside, nor one of several", () => {
    expect(
      twice([asks("a", MANAGER), asks("c", { by: "requester" }, { requesterToo: true }), asks("b", MANAGER)]),
    ).toEqual([]);
    const several: Rule = { by: "person", person: "brendan", others: ["carmel"] };
    expect(
      twice([asks("a", several, { how: "all" }), asks("b", several, { how: "all" })]).map((x) => x[2]),
    ).toEqual([2]);
    const beside = {
      id: "t",
      name: "Both",
      kind: "together",
      branches: [
        { id: "x", name: "X", steps: [asks("a", MANAGER)] },
        { id: "y", name: "Y", steps: [asks("b", MANAGER)] },
      ],
    } as unknown as Step;
    expect(twice([beside])).toEqual([]);
  });
  it("is through steps that ask nobody, and into the ways of a choice", () => {
    const way = (id: string, steps: Step[]) => ({ id, name: id, steps });
    const choose = {
      id: "ch",
      name: "Choice",
      kind: "choose",
      ways: [{ ...way("w1", [asks("b", MANAGER)]), when: "Urgent" }, way("w2", [])],
    } as unknown as Step;
    expect(twice([asks("a", MANAGER), choose, asks("c", MANAGER)])).toEqual([
      ["a", "b", 2],
      ["a", "c", 2],
      ["b", "c", 2],
    ]);
  });
  it("is not where a way leads back: there it is answered anew", () => {
    const again = { id: "j", name: "Back", kind: "jump", to: "a" } as unknown as Step;
    const b = {
      ...asks("b", { by: "requester" }, { requesterToo: true }),
      answers: [ans("on", "agree"), ans("back", "plain", [again])],
    } as Step;
    expect(twice([asks("a", MANAGER), b])).toEqual([]);
  });
});
