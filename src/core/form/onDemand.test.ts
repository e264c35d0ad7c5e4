import { KINDS } from "@/kinds";
import { compileForm, evaluateForm, prepareForm, type AccessOf, type Field, type FormData } from ".";
import { made } from "./testForm";

const run = (fields: Field[], data: FormData, access: AccessOf = () => "edit") => {
  const { form, problems } = prepareForm(fields, { registers: {}, kinds: KINDS });
  expect(problems).toEqual([]);
  return evaluateForm(compileForm(form, KINDS.fields), data, access, made());
};
const lines = (...columns: Partial<Field>[]): Field => ({
  id: "lines",
  name: "Lines",
  kind: "lines",
  fields: [{ id: "price", name: "Price", kind: "money" }, ...columns] as Field[],
});
const ROWS = [
  { "#": "1", price: "30" },
  { "#": "2", price: "70" },
];
const total: Field = { id: "total", name: "Total", kind: "money", worked: "sum(Lines.Price)" };
const share: Field = { id: "share", name: "Share", kind: "number", worked: "Price / Total" };

describe("cells are worked out one by one", () => {
  it.each([
    ["table first", [lines(share), total]],
    ["total first", [total, lines(share)]],
  ])("a share of the total over the same table, %s", (_, fields) => {
    const r = run(fields, { lines: ROWS });
    expect(r.data).toMatchObject({ total: "100", lines: [{ share: "0.3" }, { share: "0.7" }] });
    expect(r.failed.size).toBe(0);
  });
  it("a column that counts rows of its own table", () =>
    expect(
      run([lines({ id: "n", name: "Larger", kind: "number", worked: "count(Lines[Price > 50])" })], {
        lines: ROWS,
      }).data,
    ).toMatchObject({ lines: [{ n: "1" }, { n: "1" }] }));
  it("a column of the row before", () =>
    expect(
      run([lines({ id: "n", name: "Sum so far", kind: "number", worked: "sum(Lines[Price <= 70].Price)" })], {
        lines: ROWS,
      }).data,
    ).toMatchObject({ lines: [{ n: "100" }, { n: "100" }] }));
  it("a row as a whole has all its columns, in their order", () =>
    expect(
      run([lines(share), total, { id: "all", name: "All", kind: "text", worked: "string(Lines[1])" }], {
        lines: ROWS,
      }).data,
    ).toMatchObject({ all: "{Price: 30, Share: 0.3}" }));
  it("a circle through a table fails in every field on it, and in no other", () => {
    const r = run(
      [
        lines({ id: "share", name: "Share", kind: "number", worked: "Price / Total" }),
        { ...total, worked: "sum(Lines.Share)" },
        { id: "fine", name: "Fine", kind: "number", worked: "sum(Lines.Price)" },
      ],
      { lines: ROWS },
    );
    expect([...r.failed.keys()].sort()).toEqual(["lines/1/share", "lines/2/share", "total"]);
    expect(r.data).toMatchObject({ total: null, fine: "100" });
  });
});

describe("rules of worked-out fields", () => {
  const limited: Field = {
    ...total,
    needed: "true",
    min: "1",
    max: "500",
    checks: [{ must: "Total != 77", say: "Not 77." }],
  };
  const codes = (price: string | null, access?: AccessOf) =>
    run([lines(), limited], { lines: price === null ? [] : [{ "#": "1", price }] }, access).problems.map(
      (p) => `${p.path} ${p.code}`,
    );
  it("hold like those of any other", () => {
    expect(codes("100")).toEqual([]);
    expect(codes("501")).toEqual(["total too-large"]);
    expect(codes("0.50")).toEqual(["total too-small"]);
    expect(codes("77")).toEqual(["total check"]);
    expect(codes(null)).toEqual(["total needed"]);
  });
  it("for whoever may edit what they are worked out from, and for nobody else", () => {
    expect(codes("501", () => "see")).toEqual([]);
    expect(codes("501", (id) => (id === "price" || id === "lines" ? "edit" : "see"))).toEqual([
      "total too-large",
    ]);
    expect(codes("501", (id) => (id === "price" ? "edit" : "see"))).toEqual([]);
  });
  it("a check of a table binds who may edit what it reads", () => {
    const table = {
      ...lines(),
      checks: [{ must: "every l in Lines satisfies l.Price < 50", say: "Too dear." }],
    };
    const found = (access: AccessOf) => run([table], { lines: ROWS }, access).problems.map((p) => p.code);
    expect(found(() => "edit")).toEqual(["check"]);
    expect(found(() => "see")).toEqual([]);
    expect(found((id) => (id === "price" ? "see" : "edit"))).toEqual([]);
  });
  it("a check that reads no field binds who may edit its own", () => {
    const f: Field = { id: "a", name: "A", kind: "text", checks: [{ must: "false", say: "Closed." }] };
    expect(run([f], { a: "x" }).problems).toHaveLength(1);
    expect(run([f], { a: "x" }, () => "see").problems).toEqual([]);
  });
});

describe("what cannot be worked out holds the form", () => {
  const n = (id: string, more: Partial<Field> = {}): Field => ({
    id,
    name: id.toUpperCase(),
    kind: "number",
    ...more,
  });
  const said = (fields: Field[], data: FormData, access?: AccessOf) =>
    run(fields, data, access).problems.map((p) => [p.path, p.code, p.data.why]);
  const ZERO = "Nothing can be divided by zero.";
  it("a check", () =>
    expect(said([n("a"), n("b", { checks: [{ must: "A / B < 2", say: "x" }] })], { a: "1", b: "0" })).toEqual(
      [["b", "unclear", ZERO]],
    ));
  it("whether something is needed, or shown: what was typed there is kept", () => {
    expect(said([n("a"), n("b", { needed: "1 / A > 2" })], { a: "0" })).toEqual([["b", "unclear", ZERO]]);
    const hidden = [n("a"), n("b", { shown: "1 / A > 2" })];
    expect(said(hidden, { a: "0", b: "7" })).toEqual([
      ["b", "unclear", `Whether “B” is shown cannot be worked out: ${ZERO}`],
    ]);
    expect(run(hidden, { a: "0", b: "7" }).data).toEqual({ a: "0", b: "7" });
  });
  it("a worked-out field with rules of its own, and one without not", () => {
    expect(said([n("a"), n("b", { worked: "1 / A", max: "5" })], { a: "0" })).toEqual([
      ["b", "unclear", `“B” cannot be worked out: ${ZERO}`],
    ]);
    expect(said([n("a"), n("b", { worked: "1 / A" })], { a: "0" })).toEqual([]);
    expect([...run([n("a"), n("b", { worked: "1 / A" })], { a: "0" }).failed]).toEqual([
      ["b", `“B” cannot be worked out: ${ZERO}`],
    ]);
  });
  it("through any number of fields, with the reason of the first", () =>
    expect(
      said(
        [
          n("a"),
          n("b", { worked: "1 / A" }),
          n("c", { worked: "B + 1" }),
          n("d", { worked: "C + 1", max: "5" }),
        ],
        { a: "0" },
      ),
    ).toEqual([["d", "unclear", `“B” cannot be worked out: ${ZERO}`]]));
  it("who cannot mend it is not held up, and who may not see what it reads is told no more than that", () => {
    const fields = [n("a"), n("z"), n("b", { checks: [{ must: "Z / A < 2", say: "x" }] })];
    expect(said(fields, { a: "0", z: "1" }, () => "see")).toEqual([]);
    expect(said(fields, { a: "0", z: "1" }, (id) => (id === "z" ? "hide" : "edit"))).toEqual([
      ["b", "unclear", undefined],
    ]);
  });
  it("a form that asks for more work than it may", () => {
    const heavy = "count(for i in 1..90000 return (I + i) ** 0.37) > 0";
    expect(said([n("i"), n("b", { checks: [{ must: heavy, say: "x" }] })], { i: "1" })).toMatchObject([
      ["b", "unclear", /work/],
    ]);
  });
  it("nothing is kept of a row that had not enough allowance: the next time it has anew", () => {
    const column = {
      id: "x",
      name: "X",
      kind: "number" as const,
      worked: "count(for i in 1..5000 return (Price + i) ** 2)",
    };
    const { form } = prepareForm([lines(column)], { registers: {}, kinds: KINDS });
    const program = compileForm(form, KINDS.fields);
    const facts = made();
    const rows = Array.from({ length: 4 }, (_, i) => ({ "#": String(i), price: String(i + 1), x: null }));
    const all = evaluateForm(program, { lines: rows }, () => "edit", facts);
    expect(all.failed.size).toBeGreaterThan(0);
    const last = [...all.failed.keys()].at(-1)!;
    const alone = evaluateForm(
      program,
      { lines: [rows.find((r) => last.startsWith(`lines/${r["#"]}/`))!] },
      () => "edit",
      facts,
    );
    expect(alone.failed.size).toBe(0);
  });
  it("nor of a row whose check had not enough", () => {
    const must = "count(for i in 1..5000 return (Price + i) ** 2) > 0";
    const column = { id: "x", name: "X", kind: "number" as const, checks: [{ must, say: "x" }] };
    const { form } = prepareForm([lines(column)], { registers: {}, kinds: KINDS });
    const program = compileForm(form, KINDS.fields);
    const facts = made();
    const rows = Array.from({ length: 4 }, (_, i) => ({ "#": String(i), price: String(i + 1), x: null }));
    const edit: AccessOf = () => "edit";
    const held = evaluateForm(program, { lines: rows }, edit, facts).problems.at(-1)!;
    expect(held.code).toBe("unclear");
    const row = rows.find((r) => held.path.startsWith(`lines/${r["#"]}/`))!;
    expect(evaluateForm(program, { lines: [row] }, edit, facts).problems).toEqual([]);
  });
});
