import { fieldsOfPart, guideParts, placeInGuide, type Field } from ".";

const text = (id: string): Field => ({ id, name: id.toUpperCase(), kind: "text" });
const page = (id: string, label?: string): Field => ({
  id,
  name: id.toUpperCase(),
  kind: "page",
  ...(label ? { label } : {}),
  fields: [text(`${id}1`), { id: `${id}s`, name: "In", kind: "section", fields: [text(`${id}2`)] }],
});

it("makes a page of each page, and of what stands between them together", () => {
  const parts = guideParts(
    [
      text("a"),
      text("b"),
      page("p", "Who asks?"),
      { id: "s", name: "More", kind: "section" },
      text("c"),
      page("q"),
    ],
    "To begin",
  );
  expect(parts.map((p) => [p.id, p.title, p.fields.map((f) => f.id)])).toEqual([
    ["a", "To begin", ["a", "b"]],
    ["p", "Who asks?", ["p"]],
    ["s", "More", ["s", "c"]],
    ["q", "Q", ["q"]],
  ]);
  expect([...fieldsOfPart(parts[1]!)]).toEqual(["p", "p1", "ps", "p2"]);
  expect(guideParts([], "To begin")).toEqual([]);
});
it("whoever stands on a page that goes away is on the next one, and at the end behind the last", () => {
  const all = guideParts([page("p"), page("q"), page("r")], "");
  const [p, q, r] = all as [(typeof all)[0], (typeof all)[0], (typeof all)[0]];
  expect(placeInGuide(all, [p, q, r], "q")).toBe("q");
  expect(placeInGuide(all, [p, r], "q")).toBe("r");
  expect(placeInGuide(all, [p], "q")).toBeNull();
  expect(placeInGuide(all, [p, q], null)).toBeNull();
});
