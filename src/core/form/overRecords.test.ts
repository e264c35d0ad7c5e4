import { KINDS } from "@/kinds";
import { Temporal } from "temporal-polyfill";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  formForReader,
  prepareForm,
  type AccessOf,
  type Facts,
  type FactsData,
  type Field,
  type FormData,
} from ".";
import { facts as known, prices } from "./testForm";

const around = { registers: { prices }, kinds: KINDS };
const now = Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]");
const limit: Field = { id: "limit", name: "Limit", kind: "money" };
const item: Field = { id: "item", name: "Item", kind: "look-up", register: "prices" };
const all: AccessOf = () => "edit";

function run(
  fields: Field[],
  data: FormData,
  { access = all, asked, more = {} }: { access?: AccessOf; asked?: FactsData["asked"]; more?: object } = {},
) {
  const { form, problems } = prepareForm(fields, around);
  expect(problems).toEqual([]);
  const facts: Facts = {
    ...factsFrom({ ...known, ...(asked ? { asked } : {}) }, { now }, KINDS.fields),
    ...more,
  };
  const result = evaluateForm(compileForm(form, KINDS.fields), data, access, facts);
  return { form, result, said: result.problems.map((p) => `${p.path} ${p.code}`) };
}

describe("what is picked meets the condition of its field", () => {
  const picks = [limit, { ...item, offered: "Price < Limit" }];
  it("by what is filled in now; what is empty meets none", () => {
    expect(run(picks, { limit: "10", item: "1" }).said).toEqual([]);
    expect(run(picks, { limit: "10", item: "2" }).said).toEqual(["item not-offered"]);
    expect(run(picks, { limit: null, item: "1" }).said).toEqual(["item not-offered"]);
    expect(run(picks, { limit: "10", item: null }).said).toEqual([]);
  });
  it("reads a column by its name, and a field of the same name by way of the form", () => {
    const same: Field = { id: "price", name: "Price", kind: "money" };
    const fields = [same, { ...item, offered: "Price < Form.Price" }];
    expect(run(fields, { price: "4", item: "1" }).said).toEqual([]);
    expect(run(fields, { price: "3", item: "1" }).said).toEqual(["item not-offered"]);
  });
  it("takes for columns what the register has, and nothing else that records bring along", () => {
    const name: Field = { id: "n", name: "name", kind: "text" };
    const fields = [name, { ...item, offered: 'name = "yes"' }];
    expect(run(fields, { n: "yes", item: "1" }).said).toEqual([]);
    expect(run(fields, { n: "Gloves", item: "1" }).said).toEqual(["item not-offered"]);
  });
  it("what cannot be worked out holds the form, and is not taken for no; browsers leave it to the server", () => {
    const fields = [limit, { ...item, offered: "1 / Limit > Price" }];
    const data = { limit: "0", item: "1" };
    expect(run(fields, data, { more: { colleague: () => null } }).said).toEqual(["item unclear"]);
    expect(run(fields, data).said).toEqual([]);
  });
  it("holds whoever may edit the field, or something its condition reads, and nobody else", () => {
    const may =
      (...ids: string[]): AccessOf =>
      (id) =>
        ids.includes(id) ? "edit" : "see";
    const data = { limit: "10", item: "2" };
    expect(run(picks, data, { access: may("item") }).said).toEqual(["item not-offered"]);
    expect(run(picks, data, { access: may("limit") }).said).toEqual(["item not-offered"]);
    expect(run(picks, data, { access: may() }).said).toEqual([]);
  });
  it("in each row by what stands in it", () => {
    const lines: Field = {
      id: "lines",
      name: "Lines",
      kind: "lines",
      fields: [
        limit,
        { id: "cap", name: "Cap", kind: "money" },
        { ...item, offered: "Price < Form.Limit and Form.Cap > 1" },
      ],
    };
    const rows = [
      { "#": "a", limit: "10", cap: "2", item: "1" },
      { "#": "b", limit: "10", cap: "2", item: "2" },
      { "#": "c", limit: "10", cap: "1", item: "1" },
    ];
    const { said, form } = run([{ ...limit, id: "top" }, lines], { top: "99", lines: rows });
    expect(said).toEqual(["lines/b/item not-offered", "lines/c/item not-offered"]);
    expect(form.closed).toEqual(["lines"]);
    const beyond = {
      ...lines,
      fields: [item, { ...item, id: "x", name: "X", offered: "Price < Form.Limit" }],
    };
    expect(run([limit, beyond], { limit: "9", lines: [] }).form.closed).toEqual([]);
    const whole = { ...lines, fields: [{ ...item, offered: "string length(string(Form)) > 5" }] };
    expect(run([whole], { lines: [] }).form.closed).toEqual([]);
  });
  it("of people what the server knows of them counts; browsers leave it to that", () => {
    const who: Field = { id: "who", name: "Who", kind: "person", offered: 'list contains(Groups, "Guild")' };
    expect(run([who], { who: "una" }).said).toEqual([]);
    const of = (groups: string[] | null) => ({
      more: { colleague: () => groups && new Map(Object.entries({ Groups: groups })) },
    });
    expect(run([who], { who: "una" }, of(["Guild"])).said).toEqual([]);
    expect(run([who], { who: "una" }, of([])).said).toEqual(["who not-offered"]);
    expect(run([who], { who: "una" }, of(null)).said).toEqual(["who not-offered"]);
  });
  it("a reader who may not see what it reads gets no condition, and still knows that there is one", () => {
    const access: AccessOf = (id) => (id === "limit" ? "hide" : "edit");
    const { form, result } = run(picks, { limit: "10", item: "2" }, { access });
    const shown = formForReader(form, result, access, () => false).form;
    expect(shown.programs["item"]?.offered).toBeUndefined();
    expect(shown.columns?.["item"]?.offered).toBeUndefined();
    expect(shown.fields).toMatchObject([{ id: "item", offered: "true" }]);
    expect(JSON.stringify(shown)).not.toContain("Limit");
    const closed = formForReader(form, result, all, (read) => read === "record prices.Price").form;
    expect(closed.programs["item"]?.offered).toBeUndefined();
  });
});

describe("a check of what stands in a register", () => {
  const check = (there: "none" | "some", more: object = {}) => [
    limit,
    { id: "other", name: "Other", kind: "text" as const },
    {
      ...item,
      checks: [{ must: "Price > Limit", say: "Too dear.", records: { register: "prices", there }, ...more }],
    },
  ];
  const data = { limit: "10", other: "x", item: "1" };
  const keyOf = (d: FormData) => run(check("none"), d).result.asked.map((a) => a.key);
  it("asks once what it reads is known, and says nothing before it is answered", () => {
    const { result, said } = run(check("none"), data);
    expect(said).toEqual([]);
    expect(result.asked).toMatchObject([{ field: "item", about: { check: 0 } }]);
    expect(result.asked[0]!.names.get("Limit")).toBeDefined();
  });
  it.each([
    ["none", true, ["item check"]],
    ["none", false, []],
    ["some", true, []],
    ["some", false, ["item check"]],
  ] as const)("where %s may be there and that is %s", (there, is, said) =>
    expect(run(check(there), data, { asked: { [keyOf(data)[0]!]: { there: is } } }).said).toEqual(said),
  );
  it("what cannot be told holds the form with the reason", () => {
    const { result } = run(check("none"), data, { asked: { [keyOf(data)[0]!]: { why: "It is shut." } } });
    expect(result.problems).toMatchObject([{ code: "unclear", data: { why: "It is shut." } }]);
  });
  it("another question is another key; what it does not read makes none", () => {
    expect(keyOf({ ...data, limit: "11" })).not.toEqual(keyOf(data));
    expect(keyOf({ ...data, other: "y" })).toEqual(keyOf(data));
    expect(keyOf({ ...data, limit: "10.00" })).toEqual(keyOf(data));
  });
  it("tells long answers apart by their ends, and keeps the key short", () => {
    const text: Field = { id: "t", name: "T", kind: "long text" };
    const records = { register: "prices", there: "none" as const };
    const fields = [text, { ...item, checks: [{ must: "Item name = T", say: "", records }] }];
    const key = (t: string) => run(fields, { t }).result.asked[0]!.key;
    expect(key(`${"x".repeat(5000)}a`)).not.toBe(key(`${"x".repeat(5000)}b`));
    expect(key("x".repeat(5000)).length).toBeLessThan(100);
  });
  it("is asked at each evaluation, also of rows that are kept between two", () => {
    const records = { register: "prices", there: "none" as const };
    const column = { ...item, checks: [{ must: "Price > Form.Item.Price", say: "", records }] };
    const lines: Field = { id: "lines", name: "Lines", kind: "lines", fields: [column] };
    const { form } = prepareForm([lines], around);
    expect(form.closed).toEqual(["lines"]);
    const program = compileForm(form, KINDS.fields);
    const facts = factsFrom(known, { now }, KINDS.fields);
    const typed = { lines: [{ "#": "1", item: "1" }] };
    for (let i = 0; i < 2; i++)
      expect(evaluateForm(program, typed, all, facts).asked.map((a) => a.key)).toEqual([
        "lines/1/item#0 prices/1",
      ]);
  });
  it("can be passed by saying why, and is asked of nobody who may change nothing of it", () => {
    const asked = { [keyOf(data)[0]!]: { there: true } };
    expect(run(check("none", { passable: true }), data, { asked }).result.problems).toMatchObject([
      { code: "check", pass: "item#0" },
    ]);
    const { result } = run(check("none"), data, { asked, access: (id) => (id === "other" ? "edit" : "see") });
    expect(result.problems).toEqual([]);
    expect(result.asked).toEqual([]);
  });
  it("of a row asks for each, and of too many says so", () => {
    const column = {
      ...item,
      checks: [
        { must: "Price > Form.Item.Price", say: "", records: { register: "prices", there: "none" as const } },
      ],
    };
    const lines: Field = { id: "lines", name: "Lines", kind: "lines", fields: [column] };
    const rows = (n: number) =>
      Array.from({ length: n }, (_, i) => ({ "#": String(i), item: i % 2 ? "1" : "2" }));
    const two = run([lines], { lines: rows(2) }).result;
    expect(two.asked.map((a) => a.key)).toEqual(["lines/0/item#0 prices/2", "lines/1/item#0 prices/1"]);
    const asked = { [two.asked[1]!.key]: { there: true } };
    expect(run([lines], { lines: rows(2) }, { asked }).said).toEqual(["lines/1/item check"]);
    const many = run([lines], { lines: rows(201) });
    expect(many.result.asked).toHaveLength(200);
    expect(many.said).toEqual(["lines/200/item unclear"]);
  });
  it("of a row goes by the other rows where it reads them, and else not", () => {
    const keys = (must: string, first: string) => {
      const records = { register: "prices", there: "none" as const };
      const column = { ...item, checks: [{ must, say: "", records }] };
      const lines: Field = { id: "lines", name: "Lines", kind: "lines", fields: [column] };
      const rows = [
        { "#": "1", item: first },
        { "#": "2", item: "2" },
      ];
      return run([limit, lines], { limit: "1", lines: rows }).result.asked.map((a) => a.key);
    };
    for (const [must, other] of [
      ["Price > Form.Item.Price and Price > Limit", false],
      ["Price > count(Lines[Item != null])", true],
      ["Price > count(Form.Lines)", true],
    ] as const)
      expect([must, keys(must, "1")[1] !== keys(must, "2")[1]]).toEqual([must, other]);
  });
  it("is kept from whoever may not see what it reads", () => {
    const access: AccessOf = (id) => (id === "limit" ? "hide" : "edit");
    const { form, result } = run(check("none"), data, { access });
    const shown = formForReader(form, result, access, () => false);
    const again = evaluateForm(
      compileForm(shown.form, KINDS.fields),
      shown.data,
      access,
      factsFrom(known, { now }, KINDS.fields),
    );
    expect(again.asked).toEqual([]);
    expect(JSON.stringify(shown)).not.toMatch(/Too dear|Limit/);
  });
});
