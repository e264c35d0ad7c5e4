import { KINDS } from "@/kinds";
import { formProblemSentence } from "../words";
import {
  compileForm,
  evaluateForm,
  fieldsFromRows,
  formForReader,
  mergeEdits,
  prepareForm,
  tidyName,
  type Access,
  type Field,
  type FormData,
  type StoredRow,
} from ".";
import { codes, edit, FIELDS, made, prepared, row, run } from "./testForm";

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

it("two rows that come in under one id are two rows, and only the first has what is kept", () => {
  const stored = { lines: [{ ...row("1", "1", "2"), note: "kept" }] };
  const seen = FIELDS.map((f) =>
    f.id === "lines"
      ? { ...f, fields: [...f.fields!, { id: "note", name: "Note", kind: "text" as const }] }
      : f,
  );
  const merged = mergeEdits(
    seen,
    stored,
    { lines: [row("1", "1", "3"), row("1", "2", "4"), row("1", "2", "5")] },
    (id) => (id === "note" ? "see" : "edit"),
  );
  expect(merged["lines"]).toMatchObject([
    { "#": "1", qty: "3", note: "kept" },
    { "#": "new1", qty: "4", note: null },
    { "#": "new2", qty: "5", note: null },
  ]);
});

it("a reader's form holds nothing of hidden fields, formulas over them are frozen", () => {
  const access = (id: string): Access => (id === "total" || id === "who" ? "hide" : "edit");
  const data: FormData = { who: "una", lines: [row("1", "2", "50")], why: "secret project" };
  const r = formForReader(prepared.form, run(data, access), access, () => false);
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

it("a reader is told that a value could not be worked out, and why where all of that is theirs to see", () => {
  const fields: Field[] = [
    { id: "all", name: "All", kind: "number" },
    { id: "parts", name: "Parts", kind: "number" },
    { id: "each", name: "Each", kind: "number", worked: "All / Parts" },
    { id: "twice", name: "Twice", kind: "number", worked: "Each * 2" },
  ];
  const { form } = prepareForm(fields, { registers: {}, kinds: KINDS });
  const failed = (...hidden: string[]) => {
    const access = (id: string): Access => (hidden.includes(id) ? "hide" : "see");
    const r = evaluateForm(compileForm(form, KINDS.fields), { all: "1", parts: "0" }, access, made());
    return formForReader(form, r, access, () => false).failed;
  };
  expect(failed()["twice"]).toMatch(/“Each” cannot be worked out: Nothing can be divided by zero/);
  // Hidden one level deeper: what is hidden is read by what is read.
  expect(failed("parts")).toEqual({ each: "It cannot be worked out.", twice: "It cannot be worked out." });
  expect(failed("each", "parts")).toEqual({ twice: "It cannot be worked out." });
});

describe("pasted rows", () => {
  it("guess kinds from words, take kinds that are said, and mend names", () => {
    const { fields } = fieldsFromRows(
      "Start date\nNumber of cars\tnumber\tneeded\nnet-price (EUR)\n\n1. Reason\nUrgent?\nColour\tchoice",
      KINDS.fields,
      (n) => n,
      () => false,
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
  it("know kinds by their first word, and say which are none instead of guessing against them", () => {
    const pasted = fieldsFromRows(
      "Equipment\tLine items\nFrom\tdirection\nWith\te-mail\nAt\tTime\nSure\tYes/No\nPrice\tYes\nWhy\tLONG TEXT\tx",
      KINDS.fields,
      (n) => n,
      () => false,
    );
    expect(pasted.fields.map((f) => [f.name, f.kind, f.needed])).toEqual([
      ["Equipment", "lines", undefined],
      ["From", "text", undefined],
      ["With", "e-mail", undefined],
      ["At", "time", undefined],
      ["Sure", "yes or no", undefined],
      ["Price", "money", "true"],
      ["Why", "long text", "true"],
    ]);
    expect(pasted.unknown).toEqual([{ name: "From", kind: "direction" }]);
  });
  it("say which names are not as they were pasted, number doubles, and what was left out", () => {
    const pasted = fieldsFromRows(
      "net-price\nNet price\nTotal\nNET PRICE 2\n???\n\nTotal",
      KINDS.fields,
      (n) => n,
      (n) => n === "total",
    );
    expect(pasted.fields.map((f) => f.name)).toEqual([
      "net price",
      "Net price 2",
      "Total 2",
      "NET PRICE 2 2",
      "Total 3",
    ]);
    expect(pasted.renamed.map((r) => r.from)).toEqual([
      "net-price",
      "Net price",
      "Total",
      "NET PRICE 2",
      "Total",
    ]);
    expect(pasted.left).toEqual(["???"]);
  });
  it("a name that cannot be mended is left out", () => expect(tidyName("???")).toBe(""));
});
