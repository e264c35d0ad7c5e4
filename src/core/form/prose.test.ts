import { KINDS } from "@/kinds";
import { compileForm, evaluateForm, prepareForm, prose, type Access, type Field } from ".";
import { made } from "./testForm";

it("lays a text out: paragraphs, headings, lists, links, values", () => {
  expect(
    prose(
      "# Before you ask\nBring {Name}\nand a bag.\n\n- one of {A} left\n- see [the rules](https://quillhaven.example/rules)\nhttps://quillhaven.example/a.",
    ),
  ).toEqual([
    { as: "heading", parts: [{ text: "Before you ask" }] },
    {
      as: "paragraph",
      parts: [{ text: "Bring " }, { value: 0 }, { text: "\n" }, { text: "and a bag." }],
    },
    { as: "item", parts: [{ text: "one of " }, { value: 1 }, { text: " left" }] },
    {
      as: "item",
      parts: [{ text: "see " }, { text: "the rules", href: "https://quillhaven.example/rules" }],
    },
    {
      as: "paragraph",
      parts: [{ text: "https://quillhaven.example/a", href: "https://quillhaven.example/a" }, { text: "." }],
    },
  ]);
});
it.each([
  ["[press](javascript:alert(1))", [{ text: "[press](javascript:alert(1))" }]],
  [
    '[press](https://a.example" onclick="x)',
    [
      { text: "[press](" },
      { text: "https://a.example", href: "https://a.example" },
      { text: '" onclick="x)' },
    ],
  ],
  ["{{not a value}", [{ text: "{not a value}" }]],
  ["#no heading", [{ text: "#no heading" }]],
])("%j is no more than it is", (text, parts) => {
  expect(prose(text)).toEqual([{ as: "paragraph", parts }]);
});
it.each(["", "\n\n", "- \n", "# "])("%j says nothing", (text) => expect(prose(text)).toEqual([]));
it("five thousand characters of marks take no time worth the name", () => {
  for (const mark of ["[", "](", "[a](", "http://", "{{", "\n- "]) {
    const t = performance.now();
    prose(mark.repeat(5000 / mark.length));
    expect(performance.now() - t).toBeLessThan(1000);
  }
});

const fields: Field[] = [
  { id: "a", name: "A", kind: "money" },
  { id: "b", name: "B", kind: "text" },
  { id: "t", name: "T", kind: "text block", text: "{A} of {B}, {1 / 0}{A * 2}", shown: 'B != "off"' },
  { id: "p", name: "P", kind: "section", text: "{B}", fields: [{ id: "c", name: "C", kind: "text" }] },
];
const { form, problems } = prepareForm(fields, { registers: {}, kinds: KINDS });
const run = (data: Record<string, string>) =>
  evaluateForm(compileForm(form, KINDS.fields), data, (): Access => "edit", made());

it("puts values in as they read; what is empty or cannot be worked out is left out", () => {
  expect(problems).toEqual([]);
  const r = run({ a: "1250.5", b: "- # [x](https://a.example)" });
  expect(r.texts.get("t")).toEqual(["1\u202f250.50", "- # [x](https://a.example)", "", "2501"]);
  expect(r.texts.get("p")).toEqual(["- # [x](https://a.example)"]);
  // What is filled in is no markup: it is no part of the text when that is laid out.
  expect(prose(fields[2]!.text!)[0]!.parts[2]).toEqual({ value: 1 });
  expect(run({ b: "off" }).texts.has("t")).toBe(false);
  expect(r.problems).toEqual([]);
  expect(r.data).not.toHaveProperty("t");
});
it("takes nothing from what decides: a text that is too much work is left out, and all else is as without it", () => {
  const heavy = "{count(for i in 1..60000 return i)}";
  const heavyForm = prepareForm(
    [
      { id: "t", name: "T", kind: "text block", text: heavy.repeat(40) },
      { id: "a", name: "A", kind: "number", worked: "count(for i in 1..60000 return i)" },
      { id: "c", name: "C", kind: "text", checks: [{ must: "A > 1", say: "no" }] },
    ],
    { registers: {}, kinds: KINDS },
  );
  const r = evaluateForm(compileForm(heavyForm.form, KINDS.fields), {}, (): Access => "edit", made());
  expect([heavyForm.problems, r.problems, [...r.failed], r.data["a"]]).toEqual([[], [], [], "60000"]);
  expect(r.texts.get("t")!.at(-1)).toBe("");
});
it("says what is wrong with a formula in it, and has no name to be read by", () => {
  const bad = prepareForm([...fields, { id: "x", name: "X", kind: "text block", text: "{Nowhere} {T}" }], {
    registers: {},
    kinds: KINDS,
  });
  expect(bad.problems.map((p) => [p.field, p.place, p.problem.code])).toEqual([
    ["x", "text 0", "unknown-name"],
    ["x", "text 1", "unknown-name"],
  ]);
  expect(form.reads["t"]).toEqual({
    "text 0": ["a"],
    "text 1": ["b"],
    "text 3": ["a"],
    "text 2": [],
    shown: ["b"],
  });
});
