import { KINDS } from "@/kinds";
import { definitionOf, fin } from "../engine/testRequest";
import { columnsRead, problemsOf } from "../problems";
import { findField, type Field, type RegisterShape } from "../form";
import { applyEdit } from "./applyEdit";
import { followColumns } from "./followColumns";
import { usesOfField } from "./usesOfField";

/** Columns and fields are called the same all over. */
const things: RegisterShape = {
  format: "cobble-step/register@1",
  key: "things",
  name: "Things",
  one: "thing",
  purpose: "",
  columns: [
    { id: "t_name", name: "Name", kind: "text" },
    { id: "t_size", name: "Size", kind: "number" },
  ],
  title: ["t_name"],
};
const registers = { things };
const around = { registers, kinds: KINDS };
const pick = (id: string, name: string, offered: string, must: string): Field => ({
  id,
  name,
  kind: "look-up",
  register: "things",
  offered,
  checks: [{ must, say: "There is one.", records: { register: "things", there: "none" } }],
});
const d = definitionOf([fin("e", "done")], {
  fields: [
    { id: "name", name: "Name", kind: "text" },
    { id: "size", name: "Size", kind: "number" },
    pick("one", "One", "Size < Form.Size", "Name = Form.Name"),
    {
      id: "rows",
      name: "Rows",
      kind: "lines",
      fields: [
        { id: "r-size", name: "Size", kind: "number" },
        pick("two", "Two", "Size < Form.Size", "Name = Form.Name and Size > count(Form.Rows)"),
      ],
    },
  ] as Field[],
});
const formulas = (of: typeof d, id: string) => {
  const { field } = findField(of.fields, id)!;
  return [field.offered, field.checks![0]!.must];
};
function renamed(id: string, name: string) {
  const r = applyEdit(d, { op: "field.rename", id, name }, around);
  if (!r.ok) throw new Error(r.refusal.code);
  return r;
}

it("reads well, columns by their names and the form by its own", () => {
  expect(problemsOf(d, around).filter((p) => p.severity === "error")).toEqual([]);
  expect([...columnsRead(d, around)["things"]!].sort()).toEqual(["t_name", "t_size"]);
});
it("a field that is renamed is renamed where it is read by way of the form, and its column is not", () => {
  const top = renamed("size", "Width").definition;
  expect(formulas(top, "one")).toEqual(["Size < Form.Width", "Name = Form.Name"]);
  // In a row that has a Size of its own, that is meant.
  expect(formulas(top, "two")[0]).toBe("Size < Form.Size");
  const row = renamed("r-size", "Depth").definition;
  expect(formulas(row, "one")[0]).toBe("Size < Form.Size");
  expect(formulas(row, "two")[0]).toBe("Size < Form.Depth");
  expect(formulas(renamed("rows", "Lines").definition, "two")[1]).toBe(
    "Name = Form.Name and Size > count(Form.Lines)",
  );
});
it("a name is not taken by which a condition would come to read something else", () => {
  const wide = { ...d, fields: [...d.fields, { id: "depth", name: "Depth", kind: "number" as const }] };
  const reads = applyEdit(
    wide,
    { op: "field.set", id: "two", patch: { offered: "Size < Form.Depth" } },
    around,
  );
  if (!reads.ok) throw new Error(reads.refusal.code);
  expect(
    applyEdit(reads.definition, { op: "field.rename", id: "r-size", name: "Depth" }, around),
  ).toMatchObject({ ok: false, refusal: { code: "rename-unclear" } });
});
it("a column that is renamed is renamed in the condition, and the field is not", () => {
  const now = {
    things: {
      ...things,
      columns: things.columns.map((c) => (c.id === "t_size" ? { ...c, name: "Length" } : c)),
    },
  };
  const { definition, unclear } = followColumns(d, registers, now, KINDS);
  expect(unclear).toBeNull();
  expect(formulas(definition, "one")).toEqual(["Length < Form.Size", "Name = Form.Name"]);
  expect(formulas(definition, "two")[1]).toBe("Name = Form.Name and Length > count(Form.Rows)");
});
it("tells where a field is used by way of the form, and not where its column is", () => {
  const uses = (id: string) => usesOfField(d, around, id).map((u) => `${u.owner.id}: ${u.says}`);
  expect(uses("size")).toEqual(["one: reads it for what can be chosen as “One”"]);
  expect(uses("r-size")).toEqual(["two: reads it for what can be chosen as “Two”"]);
  expect(uses("name")).toEqual(["one: reads it for check 1 of “One”", "two: reads it for check 1 of “Two”"]);
});
it("says what is wrong with a check in no register, and a condition where nothing is picked", () => {
  const wrong = definitionOf([fin("e", "done")], {
    fields: [
      { ...d.fields[0]!, offered: "true" },
      {
        ...d.fields[1]!,
        checks: [{ must: "true", say: "x", records: { register: "gone", there: "some" } }],
      },
    ] as Field[],
  });
  const said = problemsOf(wrong, around).map((p) => `${p.where.id} ${p.where.place} ${p.code}`);
  expect(said).toEqual(expect.arrayContaining(["name offered offers-nothing", "size check 0 no-register"]));
});
