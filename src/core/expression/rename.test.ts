import { checkFormula, context, listOf, NUMBER, TEXT, YESNO, type Scope, type Type } from ".";
import { FUNCTIONS } from "./functions";
import { GIVEN_TO } from "./checkCall";
import { rename } from "./testing/renaming";

const SCOPE: Scope = {
  Price: NUMBER,
  Total: NUMBER,
  a: NUMBER,
  Lines: listOf({ ...context({ Price: NUMBER, Name: TEXT, Done: YESNO }), rows: "Lines" } as Type),
};
const to = (text: string, path: string[], next: string) => {
  const r = rename(text, SCOPE, path, next);
  return "text" in r ? r.text : `refused at "${text.slice(r.unclear.from, r.unclear.to)}"`;
};

describe("renaming follows what a name leads to", () => {
  it.each([
    // A column inside a filter hides the field of its name.
    ["sum(Lines[Price > 2].Price)", ["Price"], "Cost", "sum(Lines[Price > 2].Price)"],
    ["sum(Lines[Price > 2].Price)", ["Lines", "Price"], "Cost", "sum(Lines[Cost > 2].Cost)"],
    ["Lines[Total > 2][1].Price + Price", ["Price"], "Cost", "Lines[Total > 2][1].Price + Cost"],
    // What functions hand on is a line.
    [
      "sort(Lines, function(a, b) a.Price < b.Price)[1].Name",
      ["Lines", "Price"],
      "Cost",
      "sort(Lines, function(a, b) a.Cost < b.Cost)[1].Name",
    ],
    [
      "count(list replace(Lines, function(item, newItem) item.Price > 2, null))",
      ["Lines", "Price"],
      "Cost",
      "count(list replace(Lines, function(item, newItem) item.Cost > 2, null))",
    ],
    // What a formula itself brings is not the field.
    ["{Total: 5, x: Total * 2}.x", ["Total"], "Sum", "{Total: 5, x: Total * 2}.x"],
    ["(function(a) a + 1)(5) + a", ["a"], "b", "(function(a) a + 1)(5) + b"],
    ["(function(l) l.Price)(Lines[1])", ["Lines", "Price"], "Cost", "(function(l) l.Cost)(Lines[1])"],
    // Names given as texts.
    [
      'total by(Lines, "Name", "Price")[1].total',
      ["Lines", "Price"],
      "Cost",
      'total by(Lines, "Name", "Cost")[1].total',
    ],
    ['get value(Lines[1], "Price")', ["Lines", "Price"], "Cost", 'get value(Lines[1], "Cost")'],
    [
      'get value(m: Lines[1], key: "Price")',
      ["Lines", "Price"],
      "Cost",
      'get value(m: Lines[1], key: "Cost")',
    ],
    // Refused, with the place.
    ["{f: function(l) l.Price, r: f(Lines[1])}.r", ["Lines", "Price"], "Cost", 'refused at "Price"'],
    ["sum(Lines[Cost > 2].Price)", ["Price"], "Total", "sum(Lines[Cost > 2].Price)"],
    ["sum(for Cost in [1] return Price * Cost)", ["Price"], "Cost", 'refused at "Price"'],
    ["{Cost: 1, x: Price}.x", ["Price"], "Cost", 'refused at "Price"'],
    ["Lines[Price > Total][1].Name", ["Lines", "Price"], "Total", 'refused at "Total"'],
    ["Lines[Done and Total > 2][1].Name", ["Total"], "Price", 'refused at "Total"'],
    ["string(Lines[1])", ["Lines", "Price"], "Cost", 'refused at "Lines[1]"'],
    ["Lines[1] = Lines[2]", ["Lines", "Price"], "Cost", "Lines[1] = Lines[2]"],
    [
      'Lines[1] = {Price: 1, Name: "a", Done: true}',
      ["Lines", "Price"],
      "Cost",
      'refused at "Lines[1] = {Price: 1, Name: "a", Done: true}"',
    ],
  ] as [string, string[], string, string][])("%s with %j as %s", (text, path, next, wanted) => {
    expect(to(text, path, next)).toBe(wanted);
  });

  it("a formula that is a mistake stands in nobody's way", () => {
    expect(to("Cost + 1", ["Price"], "Cost")).toBe("Cost + 1");
    expect(to("Price + ((", ["Price"], "Cost")).toBe("Price + ((");
  });
});

it("knows of every function that is given functions what it hands to them", () => {
  const takers = [...FUNCTIONS.values()].filter((f) =>
    f.overloads.some((o) => o.params.some((p) => p.type.t === "function")),
  );
  expect(takers.map((f) => f.name).sort()).toEqual(Object.keys(GIVEN_TO).sort());
});

describe("mistakes that names and kinds show", () => {
  it.each([
    "sum(Lines.Name)",
    "not(Total)",
    "max(Total, Lines[1].Name)",
    'date("1 March")',
    "sort(Lines, function(a, b) a.Nope < b.Nope)",
    'total by(Lines, "Nope", "Price")',
    'get value(Lines[1], "Nope")',
    "mean(Lines)",
    "all([1, 2])",
    "min(Lines)",
    'number("twelve")',
    'duration("2 days")',
    "Lines[Price].Name",
    "list replace(Lines, function(item, x) item.Nope > 2, null)",
  ])("%s", (text) => {
    expect(checkFormula(text, SCOPE).problems).not.toEqual([]);
  });
  it.each([
    "[1] in [[1], [2]]",
    "[[{a: 1}]].a",
    "-null",
    "for x in 5 return x",
    "sum(Lines.Price)",
    "[1, 2] in [[1, 2]]",
  ])("%s is none", (text) => {
    expect(checkFormula(text, SCOPE).problems).toEqual([]);
  });
  it("looks at both sides of an if where one kind is wanted", () => {
    const { problems } = checkFormula('if Total > 1 then 5 else "a"', SCOPE, NUMBER);
    expect(problems.map((p) => [p.from, p.to])).toEqual([[25, 28]]);
  });
});
