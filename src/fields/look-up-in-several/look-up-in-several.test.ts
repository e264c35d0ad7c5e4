import { Temporal } from "temporal-polyfill";
import { checkFormula, completionsAt, Entity, readsInWords, typeInWords } from "@/core/expression";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  fieldType,
  keptAs,
  prepareForm,
  type FactsData,
  type Field,
  type FormData,
  type RegisterShape,
} from "@/core/form";
import { registerProblems, shapeChange } from "@/core/records";
import { KINDS } from "@/kinds";

const shape = (key: string, columns: RegisterShape["columns"]): RegisterShape => ({
  format: "cobble-step/register@1",
  key,
  name: key,
  one: key.slice(0, -1),
  purpose: "",
  title: ["name"],
  columns: [{ id: "name", name: "Title", kind: "text" }, ...columns],
});
const cups = shape("cups", [{ id: "state", name: "State", kind: "choice", options: ["whole", "chipped"] }]);
const loans = shape("loans", [
  { id: "state", name: "State", kind: "choice", options: ["agreed", "whole"] },
  { id: "days", name: "Days", kind: "number" },
]);
const notes = shape("notes", [
  { id: "about", name: "About", kind: "look-up in several", registers: ["cups", "loans"] },
]);
const around = { registers: { cups, loans, notes }, kinds: KINDS };
const about: Field = { id: "a", name: "About", kind: "look-up in several", registers: ["cups", "loans"] };
const data: FactsData = {
  people: {},
  registers: around.registers,
  records: {
    cups: { "1": { id: "1", name: "Kylix", state: "chipped" } },
    loans: { "1": { id: "1", name: "L-1", state: "agreed", days: "4" } },
    notes: { "7": { id: "7", name: "N", about: "loans/1" } },
  },
};
const now = Temporal.ZonedDateTime.from("2026-03-12T10:00[Europe/Dublin]");
const facts = factsFrom(data, { now }, KINDS.fields);
const form = (fields: Field[], values: FormData) =>
  evaluateForm(compileForm(prepareForm(fields, around).form, KINDS.fields), values, () => "edit", facts);
const worked = (formula: string, kind: Field["kind"] = "text"): Field => ({
  id: "w",
  name: "W",
  kind,
  worked: formula,
});

it.each([
  ["About.State", "cups/1", "chipped"],
  ["About.State", "loans/1", "agreed"],
  ["About.register", "cups/1", "cups"],
  ["About.name", "loans/1", "L-1"],
  // What only the other register has is empty here, not unknown.
  ['if About.Days = null then "no days" else "days"', "cups/1", "no days"],
  ['if About.register = "loans" then "lent" else "not lent"', null, "not lent"],
])("%s of %s is %s", (formula, raw, is) => {
  const r = form([about, worked(formula)], { a: raw });
  expect(r.problems).toEqual([]);
  expect(r.data["w"]).toBe(is);
});
it.each(["1", "cups/2", "stores/1", "cups/1/1", "/1", "cups/", "cups/01x", "constructor/1"])(
  "%s is no record of them",
  (raw) => {
    expect(form([about], { a: raw }).problems).toMatchObject([{ code: "no-record", path: "a" }]);
  },
);

it("a record that is worked out is kept with its register, whichever it is, and follows links of links", () => {
  const link: Field = { id: "n", name: "Note", kind: "look-up", register: "notes" };
  const passed = form([link, { ...about, id: "w", name: "W", worked: "Note.About" }, worked2], { n: "7" });
  expect(passed.problems).toEqual([]);
  expect(passed.data).toMatchObject({ w: "loans/1", w2: "4" });
});
const worked2: Field = { id: "w2", name: "W two", kind: "number", worked: "Note.About.Days" };

it("a record of another register is never kept by its id alone", () => {
  const cup = new Entity("cups", "1", []);
  const one = { id: "l", name: "Loan", kind: "look-up" as const, register: "loans" };
  expect(keptAs(one, cup, KINDS.fields, facts)).toMatchObject({
    why: expect.stringContaining("cannot be kept"),
  });
  expect(keptAs(about, cup, KINDS.fields, facts)).toEqual({ kept: "cups/1" });
  expect(keptAs(about, new Entity("notes", "7", []), KINDS.fields, facts)).toHaveProperty("why");
  // A list may hold records of both, whose kind is known only as it runs.
  const cupLink: Field = { id: "c", name: "Cup", kind: "look-up", register: "cups" };
  const mixed = form([cupLink, about, { ...one, worked: "[Cup, About, 1][2]" }], { c: "1", a: "cups/1" });
  expect(mixed.data["l"]).toBeNull();
  expect(mixed.failed.get("l")).toBe(
    "“Loan” cannot be worked out: it comes to a record of another register.",
  );
});

describe("in formulas", () => {
  const type = fieldType(about, around);
  const check = (text: string) => checkFormula(text, { About: type, Cup: fieldType(cupOf, around) });
  const cupOf: Field = { id: "c", name: "Cup", kind: "look-up", register: "cups" };
  it("what none of the registers has is a mistake, with what was meant", () => {
    expect(check("About.Stat").problems).toMatchObject([
      { code: "unknown-name", mend: { insert: "About.State" } },
    ]);
    expect(check("About.Days + 1").problems).toEqual([]);
  });
  it("choices of either are choices; which register it is, is one of them", () => {
    expect(check('About.State = "agreed"').problems).toEqual([]);
    expect(check('About.State = "chipped"').problems).toEqual([]);
    expect(check('About.State = "lost"').problems).toMatchObject([{ code: "wrong-type" }]);
    expect(check('About.register = "stores"').problems).toMatchObject([{ code: "wrong-type" }]);
    expect(completionsAt("About.", 6, { About: type }, null, null).options.map((o) => o.label)).toEqual(
      expect.arrayContaining(["State", "Days", "register", "name"]),
    );
  });
  it("counts as reading all that may be meant, so that what is hidden of one of them is hidden", () => {
    const { ast, reads } = check('About.State = "agreed"');
    expect(readsInWords(ast!, reads)).toEqual(["About", "record cups.State", "record loans.State"]);
    const whole = check("About");
    expect(readsInWords(whole.ast!, whole.reads)).toEqual(["About", "record cups.name", "record loans.name"]);
    const text = check("string(About)");
    expect(readsInWords(text.ast!, text.reads)).toEqual(["About", "record cups.*", "record loans.*"]);
    // Which record it is is compared, not what it holds.
    const compared = check("About = Cup");
    expect(readsInWords(compared.ast!, compared.reads)).toEqual(["About", "Cup"]);
  });
  it("may be compared with a record of one of them, and stands for none of the others", () => {
    expect(check("About = Cup").problems).toEqual([]);
    expect(typeInWords(type)).toBe("a record of cups or loans");
    expect(checkFormula("About", { About: type }, fieldType(cupOf, around)).problems).toMatchObject([
      { code: "wrong-type" },
    ]);
    expect(checkFormula("Cup", { Cup: fieldType(cupOf, around) }, type).problems).toEqual([]);
    const note = fieldType({ kind: "look-up", register: "notes" }, around);
    expect(checkFormula("Note", { Note: note }, type).problems).toMatchObject([{ code: "wrong-type" }]);
  });
});

describe("as a column", () => {
  const told = (c: Partial<RegisterShape["columns"][number]>, more: RegisterShape["columns"] = []) =>
    registerProblems(
      { ...notes, columns: [notes.columns[0]!, { ...notes.columns[1]!, ...c }, ...more] },
      around,
    ).map((p) => p.code);
  it("says what is wrong with where it leads", () => {
    expect(told({})).toEqual([]);
    expect(told({ registers: [] })).toEqual(["no-register"]);
    expect(told({ registers: ["cups", "gone"] })).toEqual(["no-register"]);
    expect(told({ registers: Array.from({ length: 13 }, () => "cups") })).toEqual(["too-many-registers"]);
    // What is kept with the record would grow old.
    expect(told({}, [{ id: "x", name: "X", kind: "text", worked: "About.State" }])).toEqual(["reads-link"]);
  });
  it("is another column only where it leads to one register less", () => {
    const to = (registers: string[]) => ({
      ...notes,
      columns: [notes.columns[0]!, { ...notes.columns[1]!, registers }],
    });
    expect(shapeChange(notes, to(["loans", "cups", "notes"])).retyped).toEqual([]);
    expect(shapeChange(notes, to(["cups"])).retyped).toHaveLength(1);
  });
});
