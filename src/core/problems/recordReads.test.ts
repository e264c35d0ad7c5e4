import type { TagSaid } from "../document";
import { definitionOf, fin, T0 } from "../engine/testRequest";
import { recordType, type RegisterShape } from "../form";
import type { ProcessDefinition, Step } from "../route";
import { KINDS } from "@/kinds";
import {
  compile,
  environment,
  evaluate,
  parseFormula,
  TEXT,
  type FormulaProblem,
  type Value,
} from "../expression";
import { officeFacts } from "../engine/testOffice";
import { columnsRead, problemsOf, registersRead } from ".";

const THINGS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "things",
  name: "Things",
  one: "thing",
  purpose: "",
  columns: [
    { id: "label", name: "Label", kind: "text" },
    { id: "price", name: "Price", kind: "money" },
    { id: "store", name: "Store", kind: "look-up", register: "stores" },
  ],
  title: ["label"],
};
const STORES: RegisterShape = {
  ...THINGS,
  key: "stores",
  name: "Stores",
  columns: [
    { id: "called", name: "Called", kind: "text" },
    { id: "code", name: "Code", kind: "text" },
  ],
  title: ["called"],
};
const REGISTERS = { things: THINGS, stores: STORES };
const AROUND = { registers: REGISTERS, kinds: KINDS };
const find = (more: object = {}): Step =>
  ({ ...KINDS.steps.find.blank("f"), name: "Found", register: "things", ...more }) as Step;
const keeps = (value: string): Step =>
  ({ id: "w", name: "Sums", kind: "work out", set: [], own: [{ name: "It", value }] }) as Step;
const read = (route: Step[], more: Partial<ProcessDefinition> = {}) =>
  columnsRead(definitionOf([...route, fin("e", "x")], more), AROUND);

describe("what a process reads of registers", () => {
  it("is what names its records, until something reads more", () => {
    expect(read([find()])).toEqual({ things: ["label"] });
    expect(read([find(), keeps("count(Found)")])).toEqual({ things: ["label"] });
    expect(read([find(), keeps("Found[1]")])).toEqual({ things: ["label"] });
    expect(read([find(), keeps("sum(Found.Price)")])).toEqual({ things: ["label", "price"] });
    expect(read([find({ where: "Price > 3" })])).toEqual({ things: ["label", "price"] });
    expect(read([find({ sort: [{ column: "price" }] })])).toEqual({ things: ["label", "price"] });
    expect(read([find({ where: 'Store.Code = "x"' })])).toEqual({
      things: ["label", "store"],
      stores: ["code"],
    });
    expect(read([], { title: "{Found[1].Price}", route: [find(), fin("e", "x")] })).toEqual({
      things: ["label", "price"],
    });
  });

  it("is all of it where that is chosen, or known only when it is worked out", () => {
    const all = ["label", "price", "store"];
    expect(read([find({ columns: "all" })])).toEqual({ things: all });
    expect(read([find(), keeps('get value(Found[1], "Pri" + "ce")')])["things"]).toEqual(all);
    expect(read([find(), keeps("get entries(Found[1])")])["things"]).toEqual(all);
  });

  it("is all of what is handed over as line items, whose columns take it by their names", () => {
    const ports = [
      { id: "rows", name: "Rows", kind: "lines", columns: [{ id: "l", name: "Label", kind: "text" }] },
    ];
    const hand = (value: string): Step =>
      ({
        ...KINDS.steps["hand to"].blank("h"),
        procedure: "p",
        takes: ports,
        values: [{ port: "rows", value }],
      }) as Step;
    expect(read([find(), hand("Found")])["things"]).toEqual(["label", "price", "store"]);
    expect(read([find(), hand("for f in Found return {Label: f.Label}")])["things"]).toEqual(["label"]);
  });

  it("is what a template reads of the things it repeats, by their names alone, however deep", () => {
    const draws = (...said: TagSaid[]) =>
      read([find(), { ...KINDS.steps["draw up"].blank("d"), document: "t" } as Step], {
        documents: [
          {
            id: "t",
            name: "Slip",
            file: { sha256: "0".repeat(64), name: "Slip.docx", size: 1 },
            tags: said.map((x) => ({ ...x, piece: 0, in: "text" as const, near: "x" })),
          },
        ],
      });
    const each = (...inside: TagSaid[]) => draws({ tag: "each", of: "Found" }, ...inside, { tag: "end" });
    expect(each()).toEqual({ things: ["label"] });
    expect(each({ tag: "value", of: "Price" })).toEqual({ things: ["label", "price"] });
    expect(each({ tag: "value", of: 'format(Price, "0.00")' })).toEqual({ things: ["label", "price"] });
    expect(each({ tag: "if", of: "Price > 3" }, { tag: "end" })).toEqual({ things: ["label", "price"] });
    expect(each({ tag: "value", of: "Store.Code" })).toEqual({
      things: ["label", "store"],
      stores: ["code"],
    });
    const deep: TagSaid[] = [
      { tag: "each", of: "[Store]" },
      { tag: "value", of: "Code" },
      { tag: "value", of: "Price" },
      { tag: "end" },
    ];
    expect(each(...deep)).toEqual({ things: ["label", "price", "store"], stores: ["called", "code"] });
    expect(draws({ tag: "value", of: "count(Found)" })).toEqual({ things: ["label"] });
  });

  it("fetches of other registers no more than what names their records", () => {
    expect(registersRead(REGISTERS, [read([find(), keeps("Found[1].Price")])])).toEqual({
      things: { ...THINGS, columns: THINGS.columns.slice(0, 2) },
      stores: { ...STORES, columns: STORES.columns.slice(0, 1) },
    });
  });
});

it("a column that was not fetched is told, and never taken for an empty one or for another name", () => {
  const facts = officeFacts(T0, {
    registers: REGISTERS,
    records: { things: { "1": { id: "1", label: "Lamp", price: null } } },
  });
  const names = new Map<string, Value>([
    ["One", facts.record("things", "1")],
    ["Store", "a name outside"],
  ]);
  const asked = (text: string) => {
    const notes: FormulaProblem[] = [];
    const { ast } = parseFormula(text, { One: recordType("things", AROUND), Store: TEXT });
    const v = evaluate(compile(ast!), { ...environment(names, facts), notes });
    return { v, notes: notes.map((n) => n.code) };
  };
  expect(asked("One.Label")).toEqual({ v: "Lamp", notes: [] });
  expect(asked("One.name")).toEqual({ v: "Lamp", notes: [] });
  expect(asked("One.Price = null")).toEqual({ v: true, notes: [] });
  // Nor is it empty for a formula that asks just that.
  for (const text of [
    "One.Store",
    "One.Store = null",
    "is empty(One.Store)",
    'if One.Store = null then "none" else "some"',
    "[One][Store != null]",
    '[One][Store = "a name outside"]',
    'get value(One, "Store")',
  ])
    expect([text, asked(text).notes]).toEqual([text, ["unread"]]);
});

it("a search whose records are used whole says so, with the mend", () => {
  const problems = (route: Step[]) =>
    problemsOf(definitionOf([...route, fin("e", "x")]), {
      ...AROUND,
      office: { people: [], groups: {}, duties: {}, calendars: [], mailboxes: [] },
    }).filter((p) => p.code === "whole-records");
  const whole = keeps("get entries(Found[1])");
  expect(problems([find(), keeps("Found[1].Price")])).toEqual([]);
  expect(problems([find(), whole])).toMatchObject([
    {
      severity: "warning",
      where: { kind: "step", id: "f", place: "columns" },
      mend: { edit: { op: "step.set", id: "f", patch: { columns: "all" } } },
    },
  ]);
  expect(problems([find({ columns: "all" }), whole])).toEqual([]);
});
