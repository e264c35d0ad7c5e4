import { valueChanges } from ".";
import type { Field } from "./field";

const FIELDS: Field[] = [
  { id: "s", name: "Section", kind: "section", fields: [{ id: "a", name: "A", kind: "text" }] },
  {
    id: "l",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "p", name: "P", kind: "money" },
      { id: "q", name: "Q", kind: "text" },
    ],
  },
  { id: "b", name: "B", kind: "text" },
];
const row = (id: string, p: string, q = "x") => ({ "#": id, p, q });
const BEFORE = { a: "1", b: null, l: [row("1", "5"), row("2", "6")] };
const AFTER = { a: "2", b: "", l: [row("2", "7"), row("3", "8")] };
const all = () => "see" as const;

it("tells each value, cell and row that differs, in the order of the sheet", () => {
  expect(
    valueChanges(FIELDS, BEFORE, AFTER, all).map((c) =>
      c.what === "value"
        ? `${c.row ? `${c.row.of.name} ${c.row.number} ` : ""}${c.field.name} ${c.from}>${c.to}`
        : `${c.what} ${c.number}`,
    ),
  ).toEqual(["A 1>2", "row removed 1", "Lines 1 P 6>7", "row added 2"]);
});
it("tells nothing of what is hidden, nor of what stands in something hidden", () => {
  const hide =
    (...ids: string[]) =>
    (id: string) =>
      ids.includes(id) ? ("hide" as const) : ("see" as const);
  expect(valueChanges(FIELDS, BEFORE, AFTER, hide("s", "l"))).toEqual([]);
  expect(valueChanges(FIELDS, BEFORE, AFTER, hide("p", "a")).map((c) => c.what)).toEqual([
    "row removed",
    "row added",
  ]);
});
it("looks only at what was set", () => {
  expect(valueChanges(FIELDS, BEFORE, { b: "x" }, all)).toHaveLength(1);
});
