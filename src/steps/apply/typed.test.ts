import { ANY, DATE, INPUT, NUMBER, TEXT, YESNO, type Scope, type Type } from "@/core/expression";
import { columnsOf, pastedCells, withCell, withoutColumn, withPasted } from "./tableEdits";
import type { Apply } from "./shape";
import { typedTest, typedValue } from "./typed";

const CHOICE: Type = { t: "text", options: ["Rope", "Sail cloth"] };
const NAMES: Scope = { Kind: TEXT, Cap: NUMBER, "Urgent order": YESNO };
const test = (text: string, type: Type) => typedTest(text, type, { ...NAMES, [INPUT]: type });

it("words are texts, in the writing of their choice; what can be read as it stands stays", () => {
  expect(test("rope", CHOICE)).toBe('"Rope"');
  expect(test("rope, sail cloth", CHOICE)).toBe('"Rope", "Sail cloth"');
  expect(test("not(rope)", CHOICE)).toBe('not("Rope")');
  expect(test("hemp-line 2", TEXT)).toBe('"hemp-line 2"');
  expect(test('"rope"', TEXT)).toBe('"rope"');
  expect(test("Kind", TEXT)).toBe("Kind");
  expect(test("null", TEXT)).toBe("null");
  expect(test('starts with(?, "R")', TEXT)).toBe('starts with(?, "R")');
});

it("signs, days, ranges and yes read as people type them; a dash tests nothing", () => {
  expect(test("≤ 500", NUMBER)).toBe("<= 500");
  expect(test("> Cap", NUMBER)).toBe("> Cap");
  expect(test("5..10", NUMBER)).toBe("[5..10]");
  expect(test("(5..10]", NUMBER)).toBe("(5..10]");
  expect(test(">= 2026-03-01", DATE)).toBe('>= date("2026-03-01")');
  expect(test("2026-03-01..2026-03-31", DATE)).toBe('[date("2026-03-01")..date("2026-03-31")]');
  expect(test('date("2026-03-01")', DATE)).toBe('date("2026-03-01")');
  expect(test("Yes", YESNO)).toBe("true");
  expect(test(" - ", ANY)).toBe("");
});

it("outputs as well, by their kind", () => {
  expect(typedValue("budget holder, or the director", "text", NAMES)).toBe(
    '"budget holder, or the director"',
  );
  expect(typedValue("ROPE", "text", NAMES, ["Rope"])).toBe('"Rope"');
  expect(typedValue("Kind", "text", NAMES)).toBe("Kind");
  expect(typedValue("no", "yes or no", NAMES)).toBe("false");
  expect(typedValue("2026-03-01", "date", NAMES)).toBe('date("2026-03-01")');
  expect(typedValue("Cap / 2", "number", NAMES)).toBe("Cap / 2");
});

const TABLE: Apply = {
  id: "t",
  name: "T",
  kind: "apply",
  inputs: [
    { id: "a", formula: "Cap" },
    { id: "b", formula: "Kind" },
  ],
  outputs: [{ id: "o", name: "Way", kind: "text" }],
  hits: "first",
  rules: [{ id: "r1", when: [{ input: "b", test: '"x"' }], then: [{ output: "o", value: '"y"' }] }],
  otherwise: [{ output: "o", value: '"z"' }],
};

it("cells of a spreadsheet go over the rules from a cell on, quotes as spreadsheets write them, and more rules behind", () => {
  expect(pastedCells('> 5\trope\tholder\r\n"two\nlines"\t"say ""no"""\t\r\n')).toEqual([
    ["> 5", "rope", "holder"],
    ["two\nlines", 'say "no"', ""],
  ]);
  expect(pastedCells('"rope"\t-')).toEqual([['"rope"', "-"]]);
  let n = 1;
  const { rules, left } = withPasted(
    TABLE,
    { rule: 0, column: 1 },
    [
      ["p", "q", "beyond"],
      ["", "s"],
    ],
    (_, text) => text,
    () => `n${n++}`,
  );
  expect(left).toBe(0);
  expect(rules).toEqual([
    { id: "r1", when: [{ input: "b", test: "p" }], then: [{ output: "o", value: "q" }] },
    { id: "n1", when: [], then: [{ output: "o", value: "s" }] },
  ]);
  const rule = TABLE.rules[0]!;
  const long = { ...TABLE, rules: Array.from({ length: 998 }, (_, i) => ({ ...rule, id: `r${i}` })) };
  const cells = [["1"], ["2"], ["3"], ["4"]];
  const many = withPasted(
    long,
    { rule: 997, column: 0 },
    cells,
    (_, t) => t,
    () => `n${n++}`,
  );
  expect(many.left).toBe(1);
});

it("a column that goes takes what stood in it along, and nothing else", () => {
  const [a, b, o] = columnsOf(TABLE);
  expect(withoutColumn(TABLE, a!).rules).toEqual(TABLE.rules);
  expect(withoutColumn(TABLE, b!)).toEqual({
    inputs: [TABLE.inputs[0]],
    rules: [{ ...TABLE.rules[0]!, when: [] }],
  });
  expect(withoutColumn(TABLE, o!)).toEqual({
    outputs: [],
    rules: [{ ...TABLE.rules[0]!, then: [] }],
    otherwise: [],
  });
  expect(withCell(TABLE.rules[0]!, b!, "").when).toEqual([]);
});
