import { KINDS } from "@/kinds";
import { likeBefore, type Access, type Field } from ".";

const f = (id: string, kind: Field["kind"] = "text", more: Partial<Field> = {}): Field => ({
  id,
  name: id.toUpperCase(),
  kind,
  ...more,
});
const lines = (columns: Field[]) => f("l", "lines", { fields: columns });
const then = [
  f("a"),
  f("b"),
  f("n", "number"),
  f("file", "file"),
  f("to", "look-up", { register: "objects" }),
  lines([f("x"), f("y"), f("doc", "file")]),
];
const data = {
  a: "one",
  b: "two",
  n: "3",
  file: "f1",
  to: "7",
  gone: "g",
  l: [{ "#": "4", x: "x", y: "y", doc: "f2" }],
};
const edit = (): Access => "edit";

it("takes what the form still has, of the same kind, and what may be filled in", () => {
  expect(likeBefore(then, then, data, edit, KINDS.fields)).toEqual({
    a: "one",
    b: "two",
    n: "3",
    to: "7",
    l: [{ "#": "4", x: "x", y: "y" }],
  });
  const now = [
    f("s", "section", { fields: [f("a"), f("b", "text", { worked: "A" })] }),
    f("n", "money"),
    f("to", "look-up", { register: "loans" }),
    f("new"),
    lines([f("x"), f("y", "number"), f("z")]),
  ];
  expect(likeBefore(now, then, data, edit, KINDS.fields)).toEqual({ a: "one", l: [{ "#": "4", x: "x" }] });
  const access = (id: string): Access => (id === "a" || id === "x" ? "see" : "edit");
  expect(likeBefore(then, then, data, access, KINDS.fields)).toEqual({
    b: "two",
    n: "3",
    to: "7",
    l: [{ "#": "4", y: "y" }],
  });
  expect(likeBefore(then, then, { a: "", b: null }, edit, KINDS.fields)).toEqual({});
});
