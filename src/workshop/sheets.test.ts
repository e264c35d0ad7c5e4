import { KINDS } from "@/kinds";
import { applyEdit, type ProcessDefinition, type Step, type StepKind } from "@/core/route";
import { problemsOf } from "@/core/problems";
import { newId, wayOn as leads } from "./parts";
import { kindChange } from "./form/kindChange";
import { mapLayout } from "./map/mapLayout";
import { sheetRows } from "./route/rows";

const AROUND = { registers: {}, kinds: KINDS };
const wayOn = (steps: readonly Step[]) => leads(steps, KINDS);
const fin = (id: string): Step => ({ id, name: "Finish", kind: "finish", result: "done", tone: "agree" });
const base: ProcessDefinition = {
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
  fields: [
    { id: "n", name: "Number", kind: "number", min: "1", max: "9" },
    {
      id: "l",
      name: "Lines",
      kind: "lines",
      fields: [
        { id: "a", name: "A", kind: "text" },
        { id: "b", name: "B", kind: "number" },
      ],
    },
    { id: "c", name: "Colour", kind: "choice", options: ["red", "blue"] },
  ],
  route: [
    {
      id: "d",
      name: "Decide it",
      kind: "decide",
      who: { rule: { by: "manager" }, how: "one" },
      answers: [
        { id: "yes", label: "Yes", tone: "agree", steps: [] },
        { id: "no", label: "No", tone: "refuse", steps: [fin("f1")] },
        { id: "back", label: "Back", tone: "plain", returns: true, steps: [] },
      ],
    },
    {
      id: "g",
      name: "Both",
      kind: "together",
      branches: [
        { id: "x", name: "x", steps: [fin("f2")] },
        {
          id: "y",
          name: "y",
          steps: [
            {
              id: "t",
              name: "Tell",
              kind: "tell",
              who: { by: "requester" },
              subject: "",
              text: "",
              ways: [],
            },
          ],
        },
      ],
    },
    { id: "j", name: "Jump", kind: "jump", to: "d" },
  ],
};

it("the route reads as rows: start, steps, and each answer and branch on a row of its own", () => {
  expect(sheetRows(base).map((r) => `${"  ".repeat(r.depth)}${r.number} ${r.kind}`)).toEqual([
    "1 start",
    "2 step",
    "  2a list",
    "  2b list",
    "    2b.1 step",
    "  2c list",
    "3 step",
    "  3a list",
    "    3a.1 step",
    "  3b list",
    "    3b.1 step",
    "4 step",
  ]);
});

it("an answer that only goes on, jumps or ends is said at its head", () => {
  expect(wayOn([])).toEqual({ kind: "on" });
  expect(wayOn([fin("f")])).toEqual({ kind: "ends", ends: "done" });
  expect(wayOn([{ id: "j", name: "", kind: "jump", to: "d" }])).toEqual({ kind: "to", to: "d" });
  expect(wayOn([fin("f"), fin("g")])).toBeNull();
});

describe("the path map", () => {
  const map = mapLayout(base);
  const node = (id: string) => map.nodes.find((n) => n.id === id)!;
  it("draws every step once, no two on one spot", () => {
    expect(map.nodes.map((n) => n.id).sort()).toEqual(["d", "f1", "f2", "g", "j", "start", "t"]);
    expect(new Set(map.nodes.map((n) => `${n.x},${n.y}`)).size).toBe(map.nodes.length);
  });
  it("keeps what goes straight on in its column and puts the rest beside it", () => {
    expect([node("d").x, node("g").x]).toEqual([0, 0]);
    expect(node("f1").x).toBe(1);
    expect(node("f1").y).toBe(node("d").y + 1);
    expect(node("t").x).toBe(node("f2").x + 1);
  });
  it("marks a jump back as such, and leads nothing on from a Finish", () => {
    expect(map.edges.find((e) => e.back)).toMatchObject({ fromStep: "j", toStep: "d" });
    expect(map.edges.some((e) => e.fromStep === "f1" || e.fromStep === "f2")).toBe(false);
    expect(map.edges.find((e) => e.fromStep === "t")).toMatchObject({ toStep: "j" });
  });
  it("is empty but for the start when there is no route", () =>
    expect(mapLayout({ route: [] })).toMatchObject({ width: 1, edges: [], nodes: [{ id: "start" }] }));
});

describe("another kind for a field", () => {
  const changed = (id: string, kind: Parameters<typeof kindChange>[2]) => {
    const field = base.fields.find((f) => f.id === id)!;
    const r = applyEdit(base, kindChange(base.fields, field, kind), AROUND);
    if (!r.ok) throw new Error(r.refusal.code);
    const back = applyEdit(r.definition, r.inverse, AROUND);
    expect(back.ok && back.definition).toEqual(base);
    return r.definition;
  };
  it("takes away what the new kind has no use for, and undo brings it back", () => {
    expect(changed("n", "text").fields[0]).toEqual({ id: "n", name: "Number", kind: "text" });
    expect(changed("n", "money").fields[0]).toMatchObject({ min: "1", max: "9" });
    expect(changed("c", "text").fields[2]).not.toHaveProperty("options");
    expect(changed("n", "choice").fields[0]!.options).toHaveLength(2);
  });
  it("columns of a table that is one no more move out beside it", () => {
    expect(changed("l", "text").fields.map((f) => f.id)).toEqual(["n", "l", "a", "b", "c"]);
    expect(changed("l", "section").fields[1]!.fields).toHaveLength(2);
  });
});

it.each(Object.keys(KINDS.steps) as StepKind[])(
  "a new %s step can be put into a route and taken out again",
  (kind) => {
    const step = KINDS.steps[kind].blank("fresh");
    const r = applyEdit(base, { op: "step.add", to: { owner: null, list: null }, after: null, step }, AROUND);
    expect(r.ok).toBe(true);
    if (!r.ok) return;
    expect(problemsOf(r.definition, AROUND)).toBeInstanceOf(Array);
    const back = applyEdit(r.definition, r.inverse, AROUND);
    expect(back.ok && back.definition).toEqual(base);
    expect(KINDS.steps[kind].verb.length).toBeGreaterThan(2);
  },
);

it("makes readable ids that are free", () => {
  expect(newId("Return date!", () => false, "")).toBe("return-date");
  expect(newId("Größe", (id) => id === "gro-e", "")).toBe("gro-e-2");
  expect(newId("Return date", () => false)).toMatch(/^return-date-[a-z2-9]{3}$/);
  expect(newId("???", () => false, "")).toBe("x");
});
