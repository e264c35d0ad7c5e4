import { arrangedFields, fillableIn, type Field } from ".";

const text = (id: string): Field => ({ id, name: id.toUpperCase(), kind: "text" });
const lines: Field = { id: "l", name: "L", kind: "lines", fields: [text("x"), text("y"), text("z")] };
const section: Field = { id: "s", name: "S", kind: "section", fields: [text("b"), lines] };
const page: Field = { id: "p", name: "P", kind: "page", fields: [section, text("c")] };
const FORM = [text("a"), page, text("d")];

const ids = (fields: readonly Field[]): unknown[] =>
  fields.map((f) => (f.fields ? [f.id, ...ids(f.fields)] : f.id));

it.each([
  [{}, ["a", ["p", ["s", "b", ["l", "x", "y", "z"]], "c"], "d"]],
  [{ parts: ["d", "a"] }, ["d", "a"]],
  [{ parts: ["s", "a"] }, [["s", "b", ["l", "x", "y", "z"]], "a"]],
  // What stands on top is not shown again in what it is taken from.
  [{ parts: ["c", "p"] }, ["c", ["p", ["s", "b", ["l", "x", "y", "z"]]]]],
  [{ parts: ["p", "c", "l"] }, [["p", ["s", "b", ["l", "x", "y", "z"]], "c"]]],
  [{ parts: ["b", "l", "s"] }, ["b", ["l", "x", "y", "z"]]],
  [{ parts: ["gone", "x", "a", "a"] }, ["a"]],
  [{ parts: [] }, []],
  [{ columns: ["z", "x"] }, ["a", ["p", ["s", "b", ["l", "z", "x"]], "c"], "d"]],
  [{ parts: ["l"], columns: ["y", "y", "gone"] }, [["l", "y"]]],
  [{ columns: ["gone"] }, ["a", ["p", ["s", "b", ["l", "x", "y", "z"]], "c"], "d"]],
])("%j shows %j", (form, shown) => {
  expect(ids(arrangedFields(FORM, form))).toEqual(shown);
});
it("fills in what is shown and nothing else", () => {
  expect(fillableIn(FORM, undefined)).toBeNull();
  expect(fillableIn(FORM, { shows: "guided", heading: "Look" })).toBeNull();
  expect([...fillableIn(FORM, { parts: ["l", "c"], columns: ["x"] })!].sort()).toEqual(["c", "l", "x"]);
  expect([...fillableIn(FORM, { columns: ["x"] })!].sort()).toEqual(["a", "b", "c", "d", "l", "p", "s", "x"]);
});
