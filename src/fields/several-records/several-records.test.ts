import { Temporal } from "temporal-polyfill";
import { Entity } from "@/core/expression";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  keptAs,
  MOST_RECORDS,
  notOffered,
  prepareForm,
  targetsOf,
  type FactsData,
  type Field,
  type FormData,
  type RegisterShape,
} from "@/core/form";
import { formProblemSentence } from "@/core/words";
import { KINDS } from "@/kinds";

const shape = (key: string): RegisterShape => ({
  format: "cobble-step/register@1",
  key,
  name: key,
  one: key.slice(0, -1),
  purpose: "",
  title: ["name"],
  columns: [
    { id: "name", name: "Title", kind: "text" },
    { id: "worth", name: "Worth", kind: "money" },
    { id: "state", name: "State", kind: "choice", options: ["whole", "chipped"] },
  ],
});
const around = { registers: { cups: shape("cups"), jugs: shape("jugs") }, kinds: KINDS };
const data: FactsData = {
  people: {},
  registers: around.registers,
  records: {
    cups: {
      "1": { id: "1", name: "Kylix", worth: "10.50", state: "whole" },
      "2": { id: "2", name: "Beaker", worth: "4", state: "chipped" },
      "3": { id: "3", name: "Goblet", worth: null, state: null },
    },
    jugs: { "1": { id: "1", name: "Ewer", worth: "9", state: "whole" } },
  },
};
const now = Temporal.ZonedDateTime.from("2026-03-12T10:00[Europe/Dublin]");
const facts = factsFrom(data, { now }, KINDS.fields);
const cups: Field = { id: "c", name: "Cups", kind: "several records", register: "cups" };
const form = (fields: Field[], values: FormData) =>
  evaluateForm(compileForm(prepareForm(fields, around).form, KINDS.fields), values, () => "edit", facts);
const worked = (formula: string): Field => ({ id: "w", name: "W", kind: "text", worked: formula });
const codes = (f: Partial<Field>, raw: string) =>
  form([{ ...cups, ...f }], { c: raw }).problems.map((p) => p.code);

it.each([
  ["count(Cups)", "1\n2", "2"],
  ["count(Cups)", null, "0"],
  ["sum(Cups.Worth)", "2\n1", "14.5"],
  ["Cups[1].Title", "2\n1", "Beaker"],
  ['some x in Cups satisfies x.State = "chipped"', "1", "no"],
  ['if every x in Cups satisfies x.State = "whole" then "all" else "not all"', "1\n2", "not all"],
  ['string join(Cups.Title, ", ")', "3\n1\n3", "Goblet, Kylix"],
])("%s of %j is %s", (formula, raw, is) => {
  const text = formula.startsWith("some") ? `if ${formula} then "yes" else "no"` : `string(${formula})`;
  const r = form([cups, worked(text)], { c: raw });
  expect(r.problems).toEqual([]);
  expect(r.data["w"]).toBe(is);
});

it("where one is gone, what reads them cannot be worked out: what holds of the others need not hold of it", () => {
  const all = worked('if every x in Cups satisfies x.State = "whole" then "all" else "not all"');
  const r = form([cups, { ...all, needed: "true" }], { c: "1\n9" });
  expect(r.data["w"]).toBeNull();
  expect(r.problems.map((p) => [p.path, p.code])).toEqual([["c", "records-gone"]]);
  expect(formProblemSentence(r.problems[0]!)).toBe(
    "Cups: a record is not there any more. Take it out, or pick another.",
  );
});

it.each([
  [{}, "1\n2\n3", []],
  [{ max: "2" }, "1\n2\n3", ["too-many-records"]],
  [{ max: "2" }, "1\n2\n2", []],
  [{ min: "2" }, "1", ["too-few-records"]],
  [{ min: "2" }, "1\n3", []],
  [{}, "\n", []],
  [{}, "cups/1", ["records-gone"]],
  [
    {},
    Array.from({ length: MOST_RECORDS + 1 }, (_, i) => i + 1).join("\n"),
    ["records-gone", "too-many-records"],
  ],
  [{ offered: 'State = "whole"' }, "1", []],
  [{ offered: 'State = "whole"' }, "1\n2", ["not-offered"]],
  [{ offered: 'State = "whole"' }, "2\n1", ["not-offered"]],
  // What is empty meets no condition.
  [{ offered: 'State = "whole"' }, "1\n3", ["not-offered"]],
])("with %j %j is told %j", (f, raw, said) => {
  expect(codes(f, raw)).toEqual(said);
});

it("what cannot be told of one does not hide that another is none of those offered", () => {
  const f = { offered: 'Worth / (Worth - 4) > 0 and State = "whole"' };
  expect([codes(f, "1"), codes(f, "2"), codes(f, "2\n1")]).toEqual([[], [], []]);
  expect([codes(f, "2\n3"), codes(f, "3\n2")]).toEqual([["not-offered"], ["not-offered"]]);
});

it("a step's offer is held against each of them, in rows as well", () => {
  const table: Field = { id: "t", name: "Rows", kind: "lines", fields: [cups] };
  const told = (fields: Field[], values: FormData) =>
    notOffered(fields, { c: ["1", "2"] }, values, () => "edit", KINDS.fields).map((p) => p.path);
  expect(told([cups], { c: "2\n1" })).toEqual([]);
  expect(told([cups], { c: "2\n3" })).toEqual(["c"]);
  expect(
    told([table], {
      t: [
        { "#": "1", c: "1" },
        { "#": "2", c: "1\n3" },
      ],
    }),
  ).toEqual(["t/2/c"]);
});

it("keeps ids of its own register only, each once", () => {
  const of = (register: string, id: string) => new Entity(register, id, []);
  const kept = (v: Parameters<typeof keptAs>[1]) => keptAs(cups, v, KINDS.fields, facts);
  expect(kept([of("cups", "2"), of("cups", "1"), of("cups", "2")])).toEqual({ kept: "2\n1" });
  expect(kept(of("cups", "3"))).toEqual({ kept: "3" });
  expect(kept([])).toEqual({ kept: null });
  expect(kept([of("cups", "2"), of("jugs", "1")])).toHaveProperty("why");
  expect(kept([of("cups", "2"), of("cups", "7")])).toHaveProperty("why");
  const mixed = form(
    [
      cups,
      { id: "j", name: "Jugs", kind: "several records", register: "jugs" },
      { ...cups, id: "m", name: "M", worked: "[[Cups[1], 1], [Jugs[1], Cups[1]]][2]" },
    ],
    { c: "1", j: "1" },
  );
  expect(mixed.data["m"]).toBeNull();
  expect(mixed.failed.get("m")).toContain("a record of another register");
});

it("points at each of them, and at no more than there may be", () => {
  expect(targetsOf(cups, "1\n2", KINDS.fields)).toEqual([
    { register: "cups", id: "1" },
    { register: "cups", id: "2" },
  ]);
  const many = Array.from({ length: 5000 }, (_, i) => String(i)).join("\n");
  expect(targetsOf(cups, many, KINDS.fields)).toHaveLength(MOST_RECORDS + 1);
  expect([targetsOf(cups, null, KINDS.fields), targetsOf(cups, "", KINDS.fields)]).toEqual([[], []]);
});

it("says what is wrong with how it is set up", () => {
  const told = (f: Partial<Field>) => {
    const out: string[] = [];
    KINDS.fields["several records"].problems(
      { ...cups, ...f },
      { registers: around.registers, say: (_, code) => out.push(code) },
    );
    return out;
  };
  expect(told({})).toEqual([]);
  expect(told({ register: "gone" })).toEqual(["no-register"]);
  expect(told({ max: "101" })).toEqual(["bad-range"]);
});
