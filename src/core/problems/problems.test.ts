import { KINDS } from "@/kinds";
import type { OfficeFacts } from "../kinds";
import type { Assignment, ProcessDefinition, Step } from "../route";
import { CheckCache, problemsOf } from ".";

const OFFICE: OfficeFacts = {
  people: [
    { id: "una", name: "Una", manager: "brendan" },
    { id: "brendan", name: "Brendan", manager: null },
  ],
  groups: { registry: ["una"], ghosts: [] },
  duties: { Guard: 1 },
  calendars: ["office"],
};

const fin: Step = { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" };
const decision = (id: string, who: Assignment): Step => ({
  id,
  name: id,
  kind: "decide",
  who,
  answers: [{ id: `${id}-yes`, label: "Yes", tone: "agree", steps: [] }],
});
const GUARD: Assignment = { rule: { by: "duty", duty: "Guard" }, how: "one" };

const definition = (route: Step[], more: Partial<ProcessDefinition> = {}): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key: "t",
  name: "Test",
  purpose: "",
  owners: ["una"],
  numbering: { prefix: "TEST", digits: 4 },
  title: "",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  samples: [],
  access: {},
  fields: [],
  route: [...route, fin],
  ...more,
});
const found = (d: ProcessDefinition) =>
  problemsOf(d, { kinds: KINDS, registers: {}, office: OFFICE, cache: new CheckCache() }).map(
    (p) => `${p.where.id} ${p.where.place ?? ""} ${p.severity} ${p.code}`,
  );

describe("whom a step asks", () => {
  it("must be somebody", () => {
    expect(
      found(definition([decision("d", { rule: { by: "group", group: "ghosts" }, how: "one" })])),
    ).toEqual(["d who error empty-group"]);
    expect(found(definition([decision("d", GUARD)]))).toEqual([]);
  });
  it("and so must the fallback: it is there for when nobody else is", () => {
    const fallback = { by: "group", group: "ghosts" } as const;
    expect(found(definition([decision("d", { ...GUARD, fallback })]))).toEqual([
      "d fallback error empty-group",
    ]);
    expect(
      found(definition([decision("d", { ...GUARD, fallback: { by: "person", person: "nobody" } })])),
    ).toEqual(["d fallback error no-person"]);
  });
  it("warns of people without a manager only where no fallback saves them", () => {
    const manager: Assignment = { rule: { by: "manager" }, how: "one" };
    expect(found(definition([decision("d", manager)]))).toEqual(["d who warning no-manager"]);
    expect(found(definition([decision("d", { ...manager, fallback: GUARD.rule })]))).toEqual([]);
  });
});

describe("a field read before it is filled in", () => {
  const fields = [{ id: "total", name: "Total", kind: "money" as const }];
  const ask = (id: string): Step =>
    ({ id, name: id, kind: "complete", who: GUARD, text: "", button: "Done" }) as Step;
  const choose = (id: string): Step =>
    ({
      id,
      name: id,
      kind: "choose",
      ways: [{ id: `${id}-w`, when: "Total > 5", steps: [] }],
      otherwise: [],
    }) as unknown as Step;
  const at = (route: Step[], sets: string) =>
    found(
      definition(route, { fields, access: { start: { total: "hide" }, [sets]: { total: "edit" } } }),
    ).filter((p) => p.endsWith("read-before-set"));
  it("is read too early before the step that fills it, and at that very step", () => {
    expect(at([choose("c"), ask("a")], "a")).toHaveLength(1);
    expect(at([ask("a"), choose("c")], "a")).toEqual([]);
    // The step's own formulas are worked out on entering, before anybody has typed anything.
    const asked = {
      ...ask("a"),
      who: { rule: { by: "formula", formula: "if Total > 5 then Requester else null" }, how: "one" },
    } as Step;
    expect(at([asked], "a")).toHaveLength(1);
  });
  it("is never filled in where no step may", () => {
    expect(at([choose("c")], "none")).toHaveLength(1);
  });
});
