import { KINDS } from "@/kinds";
import type { Column, RegisterRule, RegisterShape } from "../form";
import { registerProblems, shapeChange, withNewNames } from ".";

const other: RegisterShape = {
  format: "cobble-step/register@1",
  key: "rooms",
  name: "Rooms",
  one: "room",
  purpose: "",
  title: ["name"],
  columns: [{ id: "name", name: "Room name", kind: "text" }],
};
const columns: Column[] = [
  { id: "code", name: "Code", kind: "text" },
  { id: "size", name: "Size", kind: "number" },
  { id: "room", name: "Room", kind: "look-up", register: "rooms" },
  { id: "made", name: "Made", kind: "date" },
];
const shape = (more: Partial<RegisterShape> = {}): RegisterShape => ({
  format: "cobble-step/register@1",
  key: "crates",
  name: "Crates",
  one: "crate",
  purpose: "",
  title: ["code"],
  columns,
  ...more,
});
const around = { registers: { rooms: other }, kinds: KINDS };
const told = (s: RegisterShape) =>
  registerProblems(s, around).map((p) => `${p.where.kind} ${p.where.id} ${p.where.place ?? ""} ${p.code}`);
const plus = (c: Column) => shape({ columns: [...columns, c] });
const rule = (r: Partial<RegisterRule>): RegisterShape =>
  shape({ rules: [{ id: "r", on: "changed", when: "Size > 1", then: { do: "refuse", say: "No." }, ...r }] });

it("has nothing to say of a register that is right", () => {
  expect(told(shape())).toEqual([]);
  expect(told(plus({ id: "x", name: "Twice", kind: "number", worked: "Size * 2", needed: true }))).toEqual(
    [],
  );
  expect(told(rule({ when: "Size > Before.Size and Room.Room name != null" }))).toEqual([]);
});

it.each([
  [plus({ id: "x", name: "Code", kind: "text" }), "column x name name-twice"],
  [plus({ id: "x", name: "Before", kind: "text" }), "column x name name-taken"],
  [plus({ id: "x", name: "net-price", kind: "text" }), "column x name bad-name"],
  [plus({ id: "x", name: "Way", kind: "choice" }), "column x options no-options"],
  [plus({ id: "x", name: "Link", kind: "look-up", register: "gone" }), "column x register no-register"],
  [plus({ id: "x", name: "Sum", kind: "number", worked: "Sise * 2" }), "column x worked unknown-name"],
  [plus({ id: "x", name: "Where", kind: "text", worked: "Room.Room name" }), "column x worked reads-link"],
  [
    plus({ id: "x", name: "Old", kind: "yes or no", worked: "Made < today()" }),
    "column x worked reads-clock",
  ],
  [
    shape({
      columns: [
        ...columns,
        { id: "a", name: "A one", kind: "number", worked: "B one + 1" },
        { id: "b", name: "B one", kind: "number", worked: "A one + 1" },
      ],
    }),
    "column a worked circle",
  ],
  [
    plus({ id: "x", name: "X one", kind: "number", worked: "1", starting: "2" }),
    "column x starting never-begins",
  ],
  [shape({ title: [] }), "register crates title no-title"],
  [shape({ title: ["gone"] }), "register crates title no-column"],
  [rule({ when: " " }), "rule r when no-condition"],
  [rule({ then: { do: "refuse", say: " " } }), "rule r say no-sentence"],
  [rule({ then: { do: "set", column: "gone", value: "1" } }), "rule r column no-column"],
  [rule({ then: { do: "set", column: "size", value: "" } }), "rule r value no-value"],
  [rule({ on: "removed", then: { do: "set", column: "size", value: "1" } }), "rule r on sets-removed"],
])("tells what is wrong: %#", (s, problem) => {
  expect(told(s)).toContain(problem);
});

it("tells what becomes of columns by their ids", () => {
  const after = shape({
    columns: [
      { id: "code", name: "Number", kind: "text", needed: true },
      { id: "size", name: "Size", kind: "money" },
      { id: "fresh", name: "Fresh", kind: "text" },
      { id: "made", name: "Made", kind: "date" },
    ],
  });
  const c = shapeChange(shape(), after);
  expect(c.renamed).toMatchObject([{ from: "Code", column: { name: "Number" } }]);
  expect([c.added, c.removed, c.needed].map((x) => x.map((y) => y.id))).toEqual([
    ["fresh"],
    ["room"],
    ["code"],
  ]);
  expect(c.retyped).toMatchObject([{ column: { id: "size", kind: "money" } }]);
});

it("carries its own formulas along where a column is called otherwise, but not those written anew", () => {
  const before = shape({
    columns: [...columns, { id: "twice", name: "Twice", kind: "number", worked: "Size * 2" }],
    rules: [
      {
        id: "a",
        on: "changed",
        when: "Size > Before.Size",
        then: { do: "set", column: "code", value: "string(Size)" },
      },
      { id: "b", on: "changed", when: "Size > 1", then: { do: "refuse", say: "No." } },
    ],
  });
  const after: RegisterShape = {
    ...before,
    columns: before.columns.map((c) => (c.id === "size" ? { ...c, name: "Weight" } : c)),
    rules: before.rules!.map((r) => (r.id === "b" ? { ...r, when: "Weight > 2" } : r)),
  };
  const named = withNewNames(before, after, around);
  expect(named.columns.at(-1)!.worked).toBe("Weight * 2");
  expect(named.rules![1]!.when).toBe("Weight > 2");
  expect(named.rules![0]!.when).toBe("Weight > Before.Weight");
  expect(named.rules![0]!.then).toMatchObject({ value: "string(Weight)" });
});
