import { KINDS } from "@/kinds";
import { definitionOf, fin } from "../engine/testRequest";
import type { Field, RegisterShape } from "../form";
import type { ProcessDefinition, Step } from "./definition";
import { usesOfField } from "./usesOfField";

const things: RegisterShape = {
  format: "cobble-step/register@1",
  key: "things",
  name: "Things",
  one: "thing",
  purpose: "",
  columns: [
    { id: "total", name: "Total", kind: "number" },
    { id: "name", name: "Name", kind: "text" },
  ],
  title: ["name"],
};
const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "number" },
  {
    id: "why",
    name: "Why",
    kind: "text",
    shown: "Total > 5",
    checks: [{ must: "true", say: "x", about: ["total"] }],
  },
  {
    id: "rows",
    name: "Rows",
    kind: "lines",
    fields: [
      { id: "size", name: "Size", kind: "number" },
      { id: "twice", name: "Twice", kind: "number", worked: "Size * 2" },
    ],
  },
  { id: "sum", name: "Sum", kind: "number", worked: "sum(Rows.Twice)", fixed: true },
];
const steps: Step[] = [
  {
    id: "set",
    name: "Set",
    kind: "work out",
    set: [{ field: "total", value: "Sum + 1" }],
    rows: [{ id: "r", lines: "rows", do: "set", column: "size", value: "Size + Total" }],
  },
  {
    id: "rounds",
    name: "Rounds",
    kind: "for each",
    over: { list: "[1, 2]" },
    // In its rounds the name means the thing, and not the field.
    item: "Total",
    bodies: [
      {
        id: "b",
        steps: [
          { id: "in", name: "In", kind: "work out", set: [], own: [{ name: "A", value: "Total + 1" }] },
        ],
      },
    ],
  },
  {
    id: "through",
    name: "Through",
    kind: "for each",
    over: { lines: "rows" },
    item: "Row",
    bodies: [{ id: "tb", steps: [] }],
  },
  {
    id: "asked",
    name: "Asked",
    kind: "decide",
    who: { rule: { by: "person", person: "una" }, how: "one" },
    answers: [{ id: "y", label: "Yes", tone: "agree", anew: ["sum"], steps: [] }],
  },
  fin("e", "done"),
] as unknown as Step[];
const d: ProcessDefinition = definitionOf(steps, {
  fields: FIELDS,
  title: "About {Total}",
  starts: [
    { id: "form", kind: "form", who: { by: "everybody" } },
    {
      id: "thing",
      kind: "record",
      register: "things",
      on: "either",
      when: "Total > 3",
      values: [{ field: "total", value: "Total" }],
    } as never,
  ],
});
const uses = (id: string) =>
  usesOfField(d, { registers: { things }, kinds: KINDS }, id).map(
    (u) => `${u.owner.kind} ${u.owner.id}: ${u.says}`,
  );

it("tells of a field what reads it, sets it and names it, in the order of the sheets", () => {
  expect(uses("total")).toEqual([
    expect.stringMatching(/^process : reads it for/),
    "field why: reads it for when “Why” is shown",
    "field why: has a check that is told at it",
    "start thing: fills it in",
    expect.stringMatching(/^step set: reads it for/),
    "step set: gives it a value",
  ]);
});
it("tells of a column what reads it by its row and through its table, and what sets it", () => {
  expect(uses("size")).toEqual([
    "field twice: reads it for how “Twice” is worked out",
    expect.stringMatching(/^step set: reads it for/),
    "step set: changes the rows it stands in",
    "step through: goes through its rows",
  ]);
  expect(uses("rows").at(-1)).toBe("step through: goes through its rows");
  expect(uses("twice")).toEqual([
    "field sum: reads it for how “Sum” is worked out",
    "step set: changes the rows it stands in",
    "step through: goes through its rows",
  ]);
  expect(uses("sum")).toEqual([
    expect.stringMatching(/^step set: reads it for/),
    "step asked: reads it anew with “Yes”",
  ]);
  expect(uses("why")).toEqual([]);
  expect(uses("gone")).toEqual([]);
});
