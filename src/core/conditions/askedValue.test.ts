import { TEXT, type Scope } from "../expression";
import { askedValue, conditionFor, waysFor } from "./askedValue";

const SCOPE: Scope = { Category: TEXT, "Kind of work": TEXT };

it("a condition that asks for one value is read, and written so that it reads back", () => {
  for (const value of ["Materials", 'a "quoted" one', "back\\slash", "two\nlines", "", "ä–€"]) {
    const asked = { name: "Kind of work", value };
    expect(askedValue(conditionFor(asked), SCOPE)).toEqual(asked);
  }
});

it("any other condition is none of these", () => {
  for (const when of [
    undefined,
    "",
    'Category != "a"',
    'Category = "a" and true',
    "Category = null",
    '"a" = Category',
    'upper case(Category) = "A"',
    "Category =",
  ])
    expect(askedValue(when, SCOPE)).toBeNull();
});

it("ways without a condition get a value each, other values ways of their own, and what is written stays", () => {
  const ways = [
    { id: "w1", when: "" },
    { id: "w2", when: 'Category = "b"' },
    { id: "w3", when: 'starts with(Category, "x")' },
    { id: "w4" },
  ];
  expect(waysFor(ways, "Category", ["a", "b", "c"], SCOPE)).toEqual({
    put: [{ id: "w1", value: "a" }],
    add: ["c"],
  });
  expect(waysFor(ways, "Category", ["b"], SCOPE)).toEqual({ put: [], add: [] });
});
