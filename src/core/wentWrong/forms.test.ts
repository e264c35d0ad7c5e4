import { KINDS } from "@/kinds";
import { definitionOf, fin } from "../engine/testRequest";
import { problemsOf } from "../problems";
import { applyEdit } from "../route";
import {
  compileForm,
  evaluateForm,
  formForReader,
  mergeEdits,
  prepareForm,
  type Access,
  type Field,
  type FormData,
  type StoredRow,
} from "../form";
import { made } from "../form/testForm";

/** Forms that once counted wrongly, lost something, or gave something away. */
const column = (id: string, name: string, more: Partial<Field> = {}): Field => ({
  id,
  name,
  kind: "number",
  ...more,
});
const table = (...fields: Field[]): Field => ({ id: "lines", name: "Lines", kind: "lines", fields });
const come = (fields: Field[], data: FormData, access: (id: string) => Access = () => "edit") => {
  const { form } = prepareForm(fields, { registers: {}, kinds: KINDS });
  return { form, r: evaluateForm(compileForm(form, KINDS.fields), data, access, made()) };
};
const codes = (fields: Field[], data: FormData, access?: (id: string) => Access) =>
  come(fields, data, access).r.problems.map((p) => `${p.path} ${p.code}`);
const ROWS = {
  lines: [
    { "#": "1", price: "30" },
    { "#": "2", price: "90" },
  ],
} as FormData;
const PRICE = column("price", "Price");
const TOTAL = column("total", "Total", { worked: "sum(Lines.Price)" });

it("a share of a total over its own table, wherever either stands", () => {
  const lines = table(PRICE, column("share", "Share", { worked: "Price / Total" }));
  for (const fields of [
    [lines, TOTAL],
    [TOTAL, lines],
  ]) {
    const { r } = come(fields, ROWS);
    expect(r.data).toMatchObject({ total: "120", lines: [{ share: "0.25" }, { share: "0.75" }] });
  }
  const counting = table(PRICE, column("n", "N", { worked: "count(Lines[Price > 50])" }));
  expect(come([counting], ROWS).r.data["lines"]).toMatchObject([{ n: "1" }, { n: "1" }]);
});

it("rules of a worked-out field hold", () => {
  const rules = { max: "100", checks: [{ must: "Total < 100", say: "Too much." }] };
  expect(codes([table(PRICE), { ...TOTAL, ...rules }], ROWS)).toEqual(["total too-large", "total check"]);
});

it("a check beside a formula that takes more work than allowed does not pass", () => {
  const fields = [
    table(PRICE),
    column("worst", "Worst", { worked: "count(for a in Lines, b in Lines return a.Price * b.Price)" }),
    { ...TOTAL, checks: [{ must: "Worst > 0", say: "Too much." }] },
  ];
  const many = {
    lines: Array.from({ length: 1500 }, (_, i) => ({ "#": String(i), price: "5" })),
  } as FormData;
  expect(codes(fields, many)).toContain("total unclear");
});

it("a check binds those who may edit what it reads, and nobody else", () => {
  const lines: Field = {
    ...table({ id: "when", name: "When", kind: "date" }),
    checks: [{ must: "every l in Lines satisfies l.When > today()", say: "Past." }],
  };
  const data = { lines: [{ "#": "1", when: "2020-01-01" }] } as FormData;
  expect(codes([lines], data)).toEqual(["lines check"]);
  expect(codes([lines], data, () => "see")).toEqual([]);
});

it("a least that is no number is a problem, and nothing is thrown", () => {
  const fields = [column("n", "N", { min: "1,000" })];
  const d = definitionOf([fin("end", "done")], { fields });
  expect(problemsOf(d, { kinds: KINDS, registers: {} }).map((p) => p.code)).toEqual(["bad-range"]);
  expect(() => codes(fields, { n: "5" })).not.toThrow();
});

it("two rows under one id do not both get what is kept of the first", () => {
  const access = (id: string): Access => (id === "secret" ? "see" : "edit");
  const fields = [table(PRICE, column("secret", "Secret"))];
  const kept = { lines: [{ "#": "1", price: "1", secret: "7" }] } as FormData;
  const sent = {
    lines: [
      { "#": "1", price: "1" },
      { "#": "1", price: "2" },
    ],
  } as unknown as FormData;
  const rows = mergeEdits(fields, kept, sent, access)["lines"] as StoredRow[];
  expect(rows.map((r) => r["secret"])).toEqual(["7", null]);
});

it.each<[Field["kind"], FormData[string]]>([
  ["text", true],
  ["person", "nobody at all"],
  ["person", true],
])("a needed %s field is not satisfied by %j", (kind, v) =>
  expect(codes([{ id: "f", name: "F", kind, needed: "true" }], { f: v })).not.toEqual([]),
);

it("a reader's form says nothing of a hidden column, however deep it is read", () => {
  const fields = [
    table(PRICE),
    ...[
      "for l in reverse(Lines) return l.Price",
      'get value(Lines[1], "Price")',
      "get entries(Lines[1])",
    ].map((f, i) =>
      column(`f${i}`, `F${i}`, {
        worked: `count(${f})`,
        checks: [{ must: `count(${f}) > 9`, say: `secret ${i}` }],
      }),
    ),
  ];
  const access = (id: string): Access => (id === "price" ? "hide" : "edit");
  const { form, r } = come(fields, ROWS, access);
  const text = JSON.stringify(formForReader(form, r, access, () => false).form);
  expect(text).not.toMatch(/secret|reverse|get value|get entries/);
});

it.each(["constructor", "__proto__", "toString", "#"])("nothing may have the id %s", (id) => {
  const d = definitionOf([fin("end", "done")], { fields: [column(id, "Odd")] });
  expect(problemsOf(d, { kinds: KINDS, registers: {} }).map((p) => p.code)).toContain("bad-id");
});

it("renaming reaches every reading of a name, or is refused; never another one", () => {
  const fields = (worked: string): Field[] => [
    column("price", "Price"),
    { ...table(column("p", "Price"), column("q", "Qty")) },
    column("w", "W", { worked }),
  ];
  const rename = (worked: string, id: string) => {
    const d = definitionOf([fin("end", "done")], { fields: fields(worked) });
    const r = applyEdit(d, { op: "field.rename", id, name: "Cost" }, { registers: {}, kinds: KINDS });
    return r.ok ? r.definition.fields[2]!.worked : r.refusal.code;
  };
  expect(rename("sum(Lines[Price > 2].Price)", "price")).toBe("sum(Lines[Price > 2].Price)");
  expect(rename("sort(Lines, function(a, b) a.Price < b.Price)[1].Qty", "p")).toBe(
    "sort(Lines, function(a, b) a.Cost < b.Cost)[1].Qty",
  );
  expect(rename('sum(total by(Lines, "Qty", "Price").total)', "p")).toBe(
    'sum(total by(Lines, "Qty", "Cost").total)',
  );
  expect(rename('get value(Lines[1], "Price")', "p")).toBe('get value(Lines[1], "Cost")');
  expect(rename("{f: function(l) l.Price, r: f(Lines[1])}.r", "p")).toBe("rename-unclear");
  expect(rename("count(list replace(Lines, function(item, newItem) item.Price > 2, null))", "p")).toBe(
    "count(list replace(Lines, function(item, newItem) item.Cost > 2, null))",
  );
});

it("undo gives back the same, where it once did not", () => {
  const around = { registers: {}, kinds: KINDS };
  const d = definitionOf([fin("end", "done")], {
    fields: [column("a", "A"), table(column("b", "B"))],
    samples: [
      { id: "s1", name: "One", requester: "una", data: {} },
      { id: "s2", name: "Two", requester: "una", data: {} },
    ],
  });
  for (const edit of [
    { op: "sample.remove", id: "s1" },
    { op: "access.set", step: "end", field: "a", access: "hide" },
    { op: "field.remove", id: "a" },
    { op: "field.move", id: "a", parent: "lines", after: null },
  ] as const) {
    const r = applyEdit(d, edit, around);
    if (!r.ok) throw new Error(r.refusal.code);
    const back = applyEdit(r.definition, r.inverse, around);
    expect(back.ok && JSON.stringify(back.definition)).toBe(JSON.stringify(d));
  }
});
