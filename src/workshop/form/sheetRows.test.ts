import type { Field } from "@/core/form";
import { COPIED_FIELDS, freshFields, outermost, placeFor, rowsOf } from "./copyFields";
import { accessEdit, heldBack } from "./accessEdits";
import { filteredFields, type FieldFilter } from "./fieldFilter";
import { applyEdit, type ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";

const text = (id: string, name = id.toUpperCase(), more: Partial<Field> = {}): Field => ({
  id,
  name,
  kind: "text",
  ...more,
});
const FIELDS: Field[] = [
  text("a", "A", { needed: "true" }),
  {
    id: "s",
    name: "Sums",
    kind: "section",
    fields: [
      {
        id: "l",
        name: "Rows",
        kind: "lines",
        fields: [
          text("q", "Quantity", { kind: "number" }),
          text("c", "Cost", { kind: "money", worked: "Quantity * Price" }),
        ],
      },
      text("p", "Price", { kind: "money", checks: [{ must: "Price > 0", say: "x", about: ["p", "a"] }] }),
      text("t", "Total", { kind: "money", worked: "sum(Rows.Cost)" }),
    ],
  },
  { id: "g", name: "Page", kind: "page", fields: [text("d", "D", { personal: true, shown: 'A = "x"' })] },
];
const sums = FIELDS[1]!;
let n = 0;
const fresh = (name: string) => `${name.toLowerCase()}-new-${++n}`;
beforeEach(() => (n = 0));

it("takes rows that stand in others with those, and gives them to a spreadsheet as rows", () => {
  expect(outermost(FIELDS, new Set(["t", "s", "l", "a"])).map((f) => f.id)).toEqual(["a", "s"]);
  expect(outermost(FIELDS, new Set(["t", "q"])).map((f) => f.id)).toEqual(["q", "t"]);
  expect(rowsOf([FIELDS[0]!, FIELDS[2]!])).toBe("A\ttext\tneeded\nPage\tpage\nD\ttext");
  expect(COPIED_FIELDS).toMatch(/^application\//);
});

it("leaves ids and names that are free, and everything that reads them", () => {
  expect(freshFields([sums], [], {}, fresh)).toEqual({
    fields: [
      {
        ...sums,
        fields: [
          sums.fields![0],
          { ...sums.fields![1], checks: [{ must: "Price > 0", say: "x", about: ["p"] }] },
          sums.fields![2],
        ],
      },
    ],
    renamed: [],
  });
});

it("gives others what is free, and formulas among the copied ones follow", () => {
  const r = freshFields([sums], FIELDS, {}, fresh)!;
  expect(r.renamed).toEqual([
    { from: "Sums", to: "Sums 2" },
    { from: "Rows", to: "Rows 2" },
    { from: "Quantity", to: "Quantity 2" },
    { from: "Cost", to: "Cost 2" },
    { from: "Price", to: "Price 2" },
    { from: "Total", to: "Total 2" },
  ]);
  const [lines, price, total] = r.fields[0]!.fields!;
  expect(lines!.fields![1]).toMatchObject({ name: "Cost 2", worked: "Quantity 2 * Price 2" });
  expect(price).toMatchObject({
    id: "price-new-5",
    checks: [{ must: "Price 2 > 0", about: ["price-new-5"] }],
  });
  expect(total).toMatchObject({ worked: "sum(Rows 2.Cost 2)" });
  const ids: string[] = [];
  const walk = (f: Field) => {
    ids.push(f.id);
    f.fields?.forEach(walk);
  };
  walk(r.fields[0]!);
  expect(new Set(ids).size).toBe(6);
  expect(ids.some((id) => ["s", "l", "q", "c", "p", "t"].includes(id))).toBe(false);
});

it("calls nothing as another of the copied ones, and reads what was not copied where it comes to", () => {
  const copied = [
    text("x", "Price"),
    text("y", "Price 2", { worked: 'Price + "!"' }),
    text("z", "Z", { worked: "A" }),
  ];
  const r = freshFields(copied, FIELDS, {}, fresh)!;
  expect(r.fields.map((f) => [f.name, f.worked])).toEqual([
    ["Price 3", undefined],
    ["Price 2", 'Price 3 + "!"'],
    ["Z", "A"],
  ]);
});

it("gives nothing where a formula among them could come to read what is called so there", () => {
  const whole = [sums.fields![0]!, text("w", "Whole", { worked: "string(Rows)" })];
  expect(freshFields(whole, FIELDS, {}, fresh)).toBeNull();
  // Where all of their names are free there is nothing to follow.
  expect(freshFields(whole, [FIELDS[0]!], {}, fresh)).not.toBeNull();
});

it("is not looked at once for each of many", () => {
  const many = Array.from({ length: 300 }, (_, i) =>
    text(
      `f${i}`,
      `Field ${i}`,
      i < 2 ? {} : { kind: "number", worked: `Field ${i - 1} + Field ${i - 2} * 2` },
    ),
  );
  const r = freshFields(many, many, {}, fresh)!;
  expect(r.fields[299]!.worked).toBe("Field 298 2 + Field 297 2 * 2");
});

it("goes where it can stand: no page in anything, no group among columns", () => {
  const inLines = { parent: "l", after: "q" };
  expect(placeFor(FIELDS, inLines, [text("x")])).toEqual(inLines);
  expect(placeFor(FIELDS, inLines, [text("x"), sums])).toEqual({ parent: "s", after: "l" });
  expect(placeFor(FIELDS, inLines, [FIELDS[2]!])).toEqual({ parent: null, after: "s" });
  expect(placeFor(FIELDS, { parent: null, after: "a" }, [FIELDS[2]!])).toEqual({ parent: null, after: "a" });
  expect(placeFor(FIELDS, { parent: "s", after: "t" }, [sums])).toEqual({ parent: "s", after: "t" });
});

const definition: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "x",
  name: "X",
  purpose: "",
  owners: [],
  numbering: { prefix: "XYZ", digits: 4 },
  title: "",
  starts: [],
  fields: FIELDS,
  access: { step: { s: "hide", p: "edit" } },
  route: [
    {
      id: "step",
      name: "Step",
      kind: "complete",
      who: { rule: { by: "requester" }, how: "one" },
      button: "Done",
    },
  ],
  samples: [],
};

it("says what may be done in many cells as one edit that is taken back as one", () => {
  const cells = [
    { field: "a", step: "step" },
    { field: "s", step: "step" },
    { field: "a", step: "start" },
  ];
  const around = { kinds: KINDS, registers: {} };
  const set = applyEdit(definition, accessEdit(cells, "edit"), around);
  if (!set.ok) throw new Error("refused");
  expect(set.definition.access).toEqual({
    step: { a: "edit", s: "edit", p: "edit" },
    start: { a: "edit" },
  });
  const back = applyEdit(set.definition, set.inverse, around);
  expect(back.ok && back.definition.access).toEqual(definition.access);
  const away = applyEdit(definition, accessEdit([{ field: "s", step: "step" }], null), around);
  expect(away.ok && away.definition.access).toEqual({ step: { p: "edit" } });
});

it("says why a field is less than was said of it", () => {
  expect(heldBack(definition, { field: "p", step: "step" })).toEqual({ by: "group", name: "Sums" });
  expect(heldBack(definition, { field: "s", step: "step" })).toBeNull();
  expect(heldBack(definition, { field: "t", step: "step" })).toBeNull();
  const part: ProcessDefinition = {
    ...definition,
    access: { step: { a: "edit" } },
    forms: { step: { parts: ["g"] } },
  };
  expect(heldBack(part, { field: "a", step: "step" })).toEqual({ by: "left out" });
});

it.each<[string, FieldFilter | null, string[], number]>([
  ["", null, ["a", "s", "l", "q", "c", "p", "t", "g", "d"], 9],
  ["cost", null, ["s", "l", "c"], 1],
  ["", { by: "needed" }, ["a"], 1],
  ["", { by: "rules" }, ["s", "p", "g", "d"], 2],
  ["", { by: "worked" }, ["s", "l", "c", "t"], 2],
  ["tot", { by: "worked" }, ["s", "t"], 1],
  ["", { by: "personal" }, ["g", "d"], 1],
  ["", { by: "problems" }, ["s", "l", "q"], 1],
  ["", { by: "hide", step: "step" }, ["s", "l", "q", "c", "p", "t"], 6],
  ["", { by: "edit", step: "step" }, [], 0],
  ["", { by: "edit", step: "start" }, ["a", "s", "l", "q", "c", "p", "t", "g", "d"], 9],
  ["nothing so", null, [], 0],
])("of %j and %j it shows these, and what they stand in", (part, filter, ids, count) => {
  const r = filteredFields(definition, { text: part, filter }, new Set(["q"]));
  expect([...r.shown]).toEqual(ids);
  expect(r.count).toBe(count);
});
