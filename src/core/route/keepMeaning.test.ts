import { KINDS } from "@/kinds";
import { definitionOf, fin } from "../engine/testRequest";
import type { Field } from "../form";
import { applyEdit, type Edit, type ProcessDefinition } from ".";

const number = (id: string, name: string, worked?: string): Field => ({
  id,
  name,
  kind: "number",
  ...(worked ? { worked } : {}),
});
const form = (columns: Field[], ...more: Field[]): ProcessDefinition =>
  definitionOf([fin("end", "done")], {
    fields: [
      number("limit", "Limit"),
      { id: "lines", name: "Lines", kind: "lines", fields: columns },
      ...more,
    ],
  });
const QTY = number("qty", "Quantity");
const tried = (d: ProcessDefinition, edit: Edit) => {
  const r = applyEdit(d, edit, { registers: {}, kinds: KINDS });
  return r.ok ? "done" : r.refusal;
};
const over = form([QTY], number("n", "Over", "count(Lines[Quantity > Limit])"));

it("a column is not added under the name of a field that is read inside its table", () => {
  const add = (name: string): Edit => ({
    op: "field.add",
    parent: "lines",
    after: null,
    field: number("new", name),
  });
  expect(tried(over, add("Limit"))).toMatchObject({
    code: "other-meaning",
    data: { deed: "added", reads: "Limit", formula: "count(Lines[Quantity > Limit])", from: 23, to: 28 },
  });
  expect(tried(over, add("Most"))).toBe("done");
  // Nor by way of another column's formula.
  const column = form([QTY, number("left", "Left", "Limit - Quantity")]);
  expect(tried(column, add("Limit"))).toMatchObject({ code: "other-meaning" });
});

it("a column is not taken away, nor moved out, where a field of its name would be read instead", () => {
  const both = form([QTY, number("own", "Limit")], number("n", "Over", "count(Lines[Quantity > Limit])"));
  expect(tried(both, { op: "field.remove", id: "own" })).toMatchObject({
    code: "other-meaning",
    data: { deed: "taken away", name: "Limit" },
  });
  // Where nothing would be read instead, the formula is a mistake that is shown.
  expect(tried(both, { op: "field.remove", id: "qty" })).toBe("done");
  expect(tried(both, { op: "field.remove", id: "limit" })).toBe("done");
  const moved: Edit = { op: "field.move", id: "limit", parent: "lines", after: null };
  expect(tried(over, moved)).toMatchObject({ code: "other-meaning", data: { deed: "moved" } });
});

it("a field's own formula goes along only where it reads the same things there", () => {
  const share = number("share", "Share", "Limit * 2");
  const d = form([QTY, number("own", "Limit")], share);
  const moved: Edit = { op: "field.move", id: "share", parent: "lines", after: null };
  expect(tried(d, moved)).toMatchObject({ code: "other-meaning", data: { reads: "Limit" } });
  expect(tried(form([QTY], share), moved)).toBe("done");
});
