import { readdirSync, readFileSync } from "node:fs";
import {
  applyEdit,
  columnNames,
  followColumns,
  formulaPlaces,
  rebaseEdits,
  registersKnown,
  type Edit,
  type ProcessDefinition,
} from ".";
import { columnsRead, problemsOf } from "../problems";
import type { Column, Registers } from "../form";
import { KINDS } from "@/kinds";
import { readProcess } from "@/formats";
import { SHAPES } from "../../../demo/registers/shapes";
import { base } from "./testDefinition";

const REGISTERS: Registers = Object.fromEntries(SHAPES.map((s) => [s.key, s]));
const FOLDER = "demo/processes";
const PROCESSES = readdirSync(FOLDER).map((f) =>
  readProcess(JSON.parse(readFileSync(`${FOLDER}/${f}`, "utf8"))),
);
const changed = (registers: Registers, key: string, columns: (c: Column[]) => Column[]): Registers => ({
  ...registers,
  [key]: { ...registers[key]!, columns: columns(registers[key]!.columns) },
});
const called = (registers: Registers, key: string, names: Readonly<Record<string, string>>) =>
  changed(registers, key, (all) => all.map((c) => ({ ...c, name: names[c.id] ?? c.name })));
const texts = (d: ProcessDefinition, registers: Registers) =>
  formulaPlaces(d, { registers, kinds: KINDS }).map((p) => p.formula);
const mistakes = (d: ProcessDefinition, registers: Registers) =>
  problemsOf(d, { registers, kinds: KINDS }).map((p) => p.code);

describe("every process shipped here reads on, whatever columns come to be called", () => {
  const seen = { rewritten: 0 };
  it.each(PROCESSES.map((p) => [p.name, p] as const))("%s", (_, process) => {
    const reads = columnsRead(process, { registers: REGISTERS, kinds: KINDS });
    for (const [register, columns] of Object.entries(reads)) {
      const every = Object.fromEntries(
        REGISTERS[register]!.columns.map((c) => [c.id, `${c.name} as of now`]),
      );
      for (const names of [...columns.map((id) => ({ [id]: every[id]! })), every]) {
        const now = called(REGISTERS, register, names);
        const { definition: d, unclear } = followColumns(process, REGISTERS, now, KINDS);
        expect([register, names, unclear]).toEqual([register, names, null]);
        expect(mistakes(d, now)).toEqual(mistakes(process, REGISTERS));
        if (texts(process, REGISTERS).join("\n") !== texts(d, now).join("\n")) seen.rewritten++;
        expect(followColumns(d, now, REGISTERS, KINDS)).toEqual({ definition: process, unclear: null });
      }
    }
  });
  it("and formulas were written anew for that", () => expect(seen.rewritten).toBeGreaterThan(40));
});

const column = (id: string, name: string, more: Partial<Column> = {}): Column => ({
  id,
  name,
  kind: "text",
  ...more,
});
const shape = (key: string, columns: Column[]) => ({
  format: "cobble-step/register@1" as const,
  key,
  name: key,
  one: key,
  purpose: "",
  title: [columns[0]!.id],
  columns,
});
const TWO: Registers = {
  boats: shape("boats", [
    column("name", "Called"),
    column("state", "State"),
    column("owner", "Owner", { kind: "look-up", register: "owners" }),
  ]),
  owners: shape("owners", [column("name", "Called"), column("state", "State")]),
};

/** A process with one formula, over fields that point at boats. */
const reading = (formula: string): ProcessDefinition => ({
  ...base,
  title: "",
  starts: [],
  samples: [],
  access: {},
  fields: [
    { id: "boat", name: "Boat", kind: "look-up", register: "boats" },
    { id: "any", name: "Any", kind: "look-up in several", registers: ["boats", "owners"] },
    { id: "harbour", name: "Harbour", kind: "text" },
    { id: "out", name: "Out", kind: "text", worked: formula },
  ],
  route: [],
});
const outOf = (d: ProcessDefinition) => d.fields.find((f) => f.id === "out")!.worked;
const follow = (formula: string, after: Registers, before = TWO) => {
  const f = followColumns(reading(formula), before, after, KINDS);
  return f.unclear ? `unclear: ${f.unclear.data.why}` : outOf(f.definition);
};

describe("what is called otherwise", () => {
  const condition = called(TWO, "boats", { state: "Condition" });
  it.each([
    ["Boat.State", "Boat.Condition"],
    ["Boat.Owner.State", "Boat.Owner.State"],
    ['get value(Boat, "State")', 'get value(Boat, "Condition")'],
    ["{State: Boat.State}.State", "{State: Boat.Condition}.State"],
    ["string(Boat.Called)", "string(Boat.Called)"],
    // Only when it runs is it known whose it is.
    ["Any.State", expect.stringMatching(/^unclear: what "State" is read from here/)],
    ["Any.Called", "Any.Called"],
    ["(function(x) x.State)(Boat)", "(function(x) x.Condition)(Boat)"],
  ])("%s", (formula, wanted) => {
    expect(follow(formula, condition)).toEqual(wanted);
  });

  it("names that change places go along at once", () => {
    const swapped = called(TWO, "boats", { name: "State", state: "Called" });
    expect(follow('Boat.State + " " + Boat.Called', swapped)).toBe('Boat.Called + " " + Boat.State');
  });

  it("a name that has meanwhile gone to another column is not taken for it", () => {
    const known = registersKnown(
      changed(called(TWO, "boats", { state: "Condition" }), "boats", (all) => [
        ...all,
        column("new", "State"),
      ]),
      columnNames(Object.values(TWO)),
    );
    expect(known["boats"]).toEqual(TWO["boats"]);
    const now = changed(condition, "boats", (all) => [...all, column("new", "State")]);
    expect(follow("Boat.State", now)).toBe("Boat.Condition");
  });
});

describe("conditions over records", () => {
  const search = {
    ...reading(""),
    route: [
      { id: "find", name: "Found", kind: "find", register: "boats", where: "State = Harbour", sort: [] },
    ],
  } as unknown as ProcessDefinition;
  const searched = (after: Registers) => followColumns(search, TWO, after, KINDS);

  it("follow the names of columns, which come before those of fields", () => {
    const condition = searched(called(TWO, "boats", { state: "Condition" }));
    expect([condition.unclear, texts(condition.definition, TWO)]).toEqual([null, ["Condition = Harbour"]]);
    expect(searched(called(TWO, "boats", { state: "Harbour" })).unclear?.data).toMatchObject({
      why: '"Harbour" would then mean something else',
    });
  });

  it("let no column be added that would be read in the place of a field", () => {
    const added = changed(TWO, "boats", (all) => [...all, column("harbour", "Harbour")]);
    expect(searched(added).unclear?.data).toMatchObject({ name: "Harbour" });
    const other = changed(TWO, "boats", (all) => [...all, column("pier", "Pier")]);
    expect(searched(other)).toEqual({ definition: search, unclear: null });
  });
});

describe("as an edit", () => {
  const around = { registers: TWO, kinds: KINDS };
  const rename: Edit = {
    op: "columns.rename",
    register: "boats",
    columns: [{ id: "state", from: "State", to: "Condition" }],
  };
  it("goes along, and back to the letter, whatever the register calls its columns by then", () => {
    const before = reading("Boat.State");
    for (const registers of [TWO, called(TWO, "boats", { state: "Condition" })]) {
      const r = applyEdit(before, rename, { ...around, registers });
      if (!r.ok) throw new Error(r.refusal.code);
      expect(outOf(r.definition)).toBe("Boat.Condition");
      const back = applyEdit(r.definition, r.inverse, around);
      expect(back.ok && back.definition).toEqual(before);
    }
  });

  it("formulas somebody wrote meanwhile by the old name are carried along", () => {
    const mine: Edit[] = [
      { op: "field.set", id: "out", patch: { worked: 'Boat.State + "!"' } },
      { op: "field.set", id: "harbour", patch: { worked: "Boat.Called" } },
    ];
    const r = rebaseEdits(reading("Boat.State"), [rename], mine, around);
    expect([r.clashes, r.refused]).toEqual([[], []]);
    expect(outOf(r.definition)).toBe('Boat.Condition + "!"');
    expect(r.edits[1]).toEqual(mine[1]);
  });
});
