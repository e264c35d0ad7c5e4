import { KINDS } from "@/kinds";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { formProblemSentence } from "../words";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  fieldsFromRows,
  formForReader,
  mergeEdits,
  prepareForm,
  tidyName,
  type Access,
  type FactsData,
  type Field,
  type FormData,
  type RegisterShape,
  type StoredRow,
} from ".";

const prices: RegisterShape = {
  format: "cobble-step/register@1",
  key: "prices",
  name: "Prices",
  one: "price",
  purpose: "",
  title: ["item"],
  columns: [
    { id: "item", name: "Item name", kind: "text" },
    { id: "price", name: "Price", kind: "money" },
  ],
};
const facts: FactsData = {
  people: { una: { id: "una", name: "Una", email: "", jobTitle: "", department: "Registry", site: "" } },
  registers: { prices },
  records: {
    prices: {
      "1": { id: "1", item: "Gloves", price: "3.15" },
      "2": { id: "2", item: "Tissue", price: "14.00" },
    },
  },
};
const FIELDS: Field[] = [
  {
    id: "s",
    name: "Order",
    kind: "section",
    fields: [
      { id: "urgent", name: "Urgent", kind: "yes or no" },
      { id: "by", name: "Needed by", kind: "date", shown: "Urgent = true", needed: "true" },
    ],
  },
  {
    id: "lines",
    name: "Items",
    kind: "lines",
    needed: "true",
    fields: [
      { id: "item", name: "Item", kind: "look-up", register: "prices", needed: "true" },
      { id: "qty", name: "Quantity", kind: "number", needed: "true", min: "1", max: "50" },
      { id: "sum", name: "Line total", kind: "money", worked: "Quantity * Item.Price" },
    ],
  },
  { id: "total", name: "Total", kind: "money", worked: "sum(Items.Line total)" },
  { id: "tax", name: "With tax", kind: "money", worked: "Total * 1.23" },
  { id: "why", name: "Why", kind: "long text", shown: "Total > 500", needed: "true" },
  { id: "who", name: "Who", kind: "person" },
];
const edit = () => "edit" as Access;
const made = () =>
  factsFrom(facts, { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") }, KINDS.fields);
const prepared = prepareForm(FIELDS, { registers: { prices }, kinds: KINDS });
const program = compileForm(prepared.form, KINDS.fields);
const run = (data: FormData, access: (id: string) => Access = edit) =>
  evaluateForm(program, data, access, made());
const codes = (data: FormData, access?: (id: string) => Access) =>
  run(data, access).problems.map((p) => `${p.path} ${p.code}`);
const row = (n: string, item: string | null, qty: string | null) => ({ "#": n, item, qty });

it("prepares without problems, and is plain JSON", () => {
  expect(prepared.problems).toEqual([]);
  expect(JSON.parse(JSON.stringify(prepared.form))).toEqual(prepared.form);
});

it("works out rows and totals exactly, whatever the order on the sheet", () => {
  const r = run({ lines: [row("1", "1", "10"), row("2", "2", "2")] });
  expect(r.data["total"]).toBe("59.5");
  expect(r.data["tax"]).toBe("73.19"); // 73.185, half up
  expect((r.data["lines"] as StoredRow[]).map((l) => l["sum"])).toEqual(["31.5", "28"]);
});

it("shows by condition; what is not shown is neither needed nor kept", () => {
  expect(codes({ urgent: true, lines: [row("1", "1", "1")] })).toEqual(["by needed"]);
  const r = run({ urgent: false, by: "2026-04-01", lines: [row("1", "1", "1")] });
  expect(r.problems).toEqual([]);
  expect(r.data["by"]).toBeNull();
  expect(r.shown.has("why")).toBe(false);
  expect(codes({ lines: [row("1", "2", "50")] })).toEqual(["why needed"]);
});

it.each<[FormData, string, string]>([
  [{ lines: [] }, "lines no-lines", "Items needs at least one line."],
  [{ lines: [row("1", null, "2")] }, "lines/1/item needed", "Line 1: Item is needed."],
  [{ lines: [row("1", "1", "0")] }, "lines/1/qty too-small", "Line 1: Quantity is at least 1; 0 is less."],
  [{ lines: [row("1", "1", "51")] }, "lines/1/qty too-large", "Line 1: Quantity is at most 50; 51 is more."],
  [
    { lines: [row("1", "1", "two")] },
    "lines/1/qty not-a-number",
    'Line 1: "two" is not a number. Write digits, for example 1250.50.',
  ],
  [
    { urgent: true, by: "31.12.2026", lines: [row("1", "1", "1")] },
    "by not-a-date",
    '"31.12.2026" is not a date. Write year-month-day, for example 2026-11-30.',
  ],
  [
    { urgent: "perhaps", lines: [row("1", "1", "1")] },
    "urgent not-yes-or-no",
    "Urgent is answered with yes or no.",
  ],
])("%p is told as %s", (data, code, sentence) => {
  const r = run(data);
  expect(r.problems.map((p) => `${p.path} ${p.code}`)).toContain(code);
  expect(r.problems.map(formProblemSentence)).toContain(sentence);
});

it("complains only about what the person may edit", () => {
  expect(codes({}, () => "see")).toEqual([]);
  expect(codes({ lines: [row("1", null, null)] }, (id) => (id === "qty" ? "see" : "edit"))).toEqual([
    "lines/1/item needed",
  ]);
});

it("two fields that work each other out come to nothing instead of running on", () => {
  const circle: Field[] = [
    { id: "a", name: "A", kind: "number", worked: "B + 1" },
    { id: "b", name: "B", kind: "number", worked: "A + 1" },
  ];
  const p = compileForm(prepareForm(circle, { registers: {}, kinds: KINDS }).form, KINDS.fields);
  expect(evaluateForm(p, {}, edit, made()).data).toEqual({ a: null, b: null });
});

it("keeps only what may be edited", () => {
  const access = (id: string): Access => (id === "urgent" || id === "lines" || id === "qty" ? "edit" : "see");
  const stored: FormData = { who: "una", lines: [{ "#": "1", item: "1", qty: "1" }] };
  const out = mergeEdits(
    FIELDS,
    stored,
    {
      who: "x",
      urgent: true,
      total: "1",
      lines: [
        { "#": "1", item: "2", qty: "9", sum: "0" },
        { "#": "2", item: "2", qty: "3" },
      ],
    },
    access,
  );
  expect(out).toEqual({
    who: "una",
    urgent: true,
    lines: [
      { "#": "1", item: "1", qty: "9", sum: null },
      { "#": "2", item: null, qty: "3", sum: null },
    ],
  });
});

it("a reader's form holds nothing of hidden fields, formulas over them are frozen", () => {
  const access = (id: string): Access => (id === "total" || id === "who" ? "hide" : "edit");
  const data: FormData = { who: "una", lines: [row("1", "2", "50")], why: "secret project" };
  const r = formForReader(prepared.form, run(data, access), access);
  const text = JSON.stringify(r);
  expect(text).not.toContain("Total *");
  expect(text).not.toContain("Total >");
  expect(r.data).not.toHaveProperty("who");
  expect(r.data).not.toHaveProperty("total");
  const again = evaluateForm(
    compileForm(r.form, KINDS.fields),
    r.data,
    (id) => r.access[id] ?? "hide",
    made(),
  );
  expect(again.shown.has("why")).toBe(true);
  expect(again.data["tax"]).toBe("861");
});

it("evaluating what came out again changes nothing, for any typed values", () => {
  const cell = fc.oneof(
    fc.constantFrom("1", "2", "", "x", "-5", "1e3", "999999999999.999"),
    fc.constant(null),
  );
  fc.assert(
    fc.property(fc.array(fc.tuple(cell, cell), { maxLength: 6 }), fc.option(fc.boolean()), (rows, urgent) => {
      const data: FormData = { urgent, lines: rows.map(([item, qty], i) => ({ "#": String(i), item, qty })) };
      const once = run(data);
      expect(run(once.data).data).toEqual(once.data);
    }),
    { seed: 4, numRuns: 300 },
  );
});

it("a form evaluated change by change comes to the same as one evaluated from nothing", () => {
  const cell = fc.constantFrom("1", "2", "", "x", "60", "500");
  const oneProgram = compileForm(prepared.form, KINDS.fields);
  const oneFacts = made();
  fc.assert(
    fc.property(
      fc.array(fc.record({ at: fc.nat(4), item: cell, qty: cell, drop: fc.boolean() }), {
        minLength: 1,
        maxLength: 8,
      }),
      (changes) => {
        let rows: StoredRow[] = [row("1", "1", "2"), row("2", "2", "3")];
        for (const c of changes) {
          if (c.drop && rows.length > 1) rows = rows.slice(1);
          else if (c.at >= rows.length) rows = [...rows, row(String(10 + rows.length), c.item, c.qty)];
          else rows = rows.map((r, i) => (i === c.at ? { ...r, item: c.item, qty: c.qty } : r));
          const step = evaluateForm(oneProgram, { lines: rows }, edit, oneFacts);
          const fresh = evaluateForm(compileForm(prepared.form, KINDS.fields), { lines: rows }, edit, made());
          expect({ ...step, names: null }).toEqual({ ...fresh, names: null });
        }
      },
    ),
    { seed: 8, numRuns: 150 },
  );
});

describe("pasted rows", () => {
  it("guess kinds from words, take kinds that are said, and mend names", () => {
    const fields = fieldsFromRows(
      "Start date\nNumber of cars\tnumber\tneeded\nnet-price (EUR)\n\n1. Reason\nUrgent?\nColour\tchoice",
      KINDS.fields,
      (n) => n,
    );
    expect(fields.map((f) => [f.name, f.kind, f.needed])).toEqual([
      ["Start date", "date", undefined],
      ["Number of cars", "number", "true"],
      ["net price EUR", "money", undefined],
      ["Reason", "long text", undefined],
      ["Urgent", "yes or no", undefined],
      ["Colour", "choice", undefined],
    ]);
  });
  it("a name that cannot be mended is left out", () => expect(tidyName("???")).toBe(""));
});
