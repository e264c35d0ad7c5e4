import { KINDS } from "@/kinds";
import { Temporal } from "temporal-polyfill";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  formForReader,
  mergeEdits,
  prepareForm,
  withoutHidden,
  type Access,
  type Field,
  type FormData,
  type Stored,
  type StoredRow,
} from ".";

const FIELDS: Field[] = [
  { id: "rate", name: "Rate", kind: "number" },
  { id: "note", name: "Note", kind: "text", needed: "true" },
  {
    id: "lines",
    name: "Items",
    kind: "lines",
    fields: [
      { id: "qty", name: "Quantity", kind: "number" },
      { id: "twice", name: "Twice", kind: "number", worked: "Quantity * 2" },
      { id: "cost", name: "Cost", kind: "number", worked: "Quantity * Rate" },
      { id: "big", name: "Reason", kind: "text", shown: "Quantity > 10", needed: "true" },
    ],
  },
];
const facts = factsFrom(
  { people: {}, registers: {}, records: {} },
  { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") },
  KINDS.fields,
);
const edit = () => "edit" as Access;
const program = compileForm(prepareForm(FIELDS, { registers: {}, kinds: KINDS }).form, KINDS.fields);
const run = (data: FormData) => evaluateForm(program, data, edit, facts);
const rowsOf = (data: FormData) => run(data).data["lines"] as StoredRow[];

it("a row is worked out anew when something outside it changes, though the row is the same", () => {
  const row = { "#": "1", qty: "3" };
  expect(rowsOf({ rate: "2", lines: [row] })[0]).toMatchObject({ twice: "6", cost: "6" });
  expect(rowsOf({ rate: "5", lines: [row] })[0]).toMatchObject({ twice: "6", cost: "15" });
  expect(rowsOf({ rate: "", lines: [row] })[0]).toMatchObject({ twice: "6", cost: null });
});

it("a column is shown line by line; what is not shown is neither needed nor kept", () => {
  const data = {
    note: "x",
    lines: [
      { "#": "1", qty: "3", big: "typed before" },
      { "#": "2", qty: "11", big: "" },
    ],
  };
  expect(run(data).problems.map((p) => `${p.path} ${p.code}`)).toEqual(["lines/2/big needed"]);
  expect(rowsOf(data).map((r) => r["big"])).toEqual([null, null]);
  expect(rowsOf({ lines: [{ "#": "2", qty: "11", big: "because" }] })[0]).toMatchObject({ big: "because" });
});

it("blanks alone fill nothing in", () => {
  expect(run({ note: "  \n " }).problems.map((p) => `${p.path} ${p.code}`)).toEqual(["note needed"]);
  expect(run({ note: " x " }).problems).toEqual([]);
});

it("what is no list of lines is none, and leaves the stored ones out only where they may be edited", () => {
  const stored: FormData = { lines: [{ "#": "1", qty: "3" }] };
  for (const odd of ["two", true, null, { "#": "1" }] as never[])
    expect(mergeEdits(FIELDS, stored, { lines: odd }, edit)["lines"]).toEqual([]);
  expect(mergeEdits(FIELDS, stored, { lines: "two" }, () => "see")["lines"]).toEqual(stored["lines"]);
});

it("a formula that reads one hidden field among others does not leave with the form, in a row neither", () => {
  const access = (id: string): Access => (id === "rate" ? "hide" : "edit");
  const { form } = prepareForm(
    [...FIELDS, { id: "more", name: "More", kind: "number", worked: "count(Items) + Rate" }],
    { registers: {}, kinds: KINDS },
  );
  const data = { rate: "7", lines: [{ "#": "1", qty: "3" }] };
  const read = formForReader(
    form,
    evaluateForm(compileForm(form, KINDS.fields), data, edit, facts),
    access,
    () => false,
  );
  expect(JSON.stringify(read)).not.toContain("Rate");
  expect(read.form.programs["twice"]).toHaveProperty("worked");
  expect(read.form.programs["cost"]).not.toHaveProperty("worked");
  const again = evaluateForm(
    compileForm(read.form, KINDS.fields),
    read.data,
    (id) => read.access[id] ?? "hide",
    facts,
  );
  expect(again.data).toMatchObject({ more: "8", lines: [{ twice: "6", cost: "21" }] });
});

it("whether a column is shown or needed in a row stays what the server found, row by row", () => {
  const { form } = prepareForm(
    [
      {
        id: "lines",
        name: "Items",
        kind: "lines",
        fields: [
          { id: "secret", name: "Secret", kind: "yes or no" },
          { id: "why", name: "Why", kind: "text", shown: "Secret", needed: "true" },
          { id: "much", name: "Much", kind: "text", needed: "Secret" },
        ],
      },
    ],
    { registers: {}, kinds: KINDS },
  );
  const line = (n: string, secret: boolean) => ({ "#": n, secret, why: "x", much: null });
  const data = { lines: [line("1", true), line("2", false)] };
  const access = (id: string): Access => (id === "secret" ? "hide" : "edit");
  const whole = evaluateForm(compileForm(form, KINDS.fields), data, edit, facts);
  const read = formForReader(form, whole, access, () => false);
  expect(JSON.stringify(read)).not.toContain("Secret");
  const see = (rows: Stored) =>
    evaluateForm(
      compileForm(read.form, KINDS.fields),
      { lines: rows },
      (id) => read.access[id] ?? "hide",
      facts,
    );
  const again = see(read.data["lines"]!);
  expect([...again.shown].sort()).toEqual([...whole.shown].filter((p) => !p.endsWith("secret")).sort());
  expect([...again.needed].sort()).toEqual([...whole.needed].sort());
  // A row added since: shown, and not held against anybody.
  const added = see([{ "#": "9", why: null, much: null }]);
  expect([added.shown.has("lines/9/why"), added.needed.has("lines/9/much")]).toEqual([true, false]);
});

it("values of hidden fields and columns are taken out, and nothing else", () => {
  const data: FormData = { rate: "7", note: "x", lines: [{ "#": "1", qty: "3", big: "y" }], gone: "z" };
  const hide =
    (...ids: string[]) =>
    (id: string): Access =>
      ids.includes(id) ? "hide" : "see";
  expect(withoutHidden(FIELDS, data, hide())).toEqual({
    rate: "7",
    note: "x",
    lines: [{ "#": "1", qty: "3", twice: null, cost: null, big: "y" }],
  });
  expect(withoutHidden(FIELDS, data, hide("rate", "big"))).toEqual({
    note: "x",
    lines: [{ "#": "1", qty: "3", twice: null, cost: null }],
  });
});
