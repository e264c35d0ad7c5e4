import { KINDS } from "@/kinds";
import { Temporal } from "temporal-polyfill";
import { checkFormula, completionsAt, rowsOf, typeInWords } from "../expression";
import { formProblemSentence } from "../words";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  fieldsFromRows,
  fileMistakes,
  formScope,
  prepareForm,
  type FactsData,
  type Field,
  type FormData,
  type StoredRow,
} from ".";

const AT = Date.UTC(2026, 2, 2, 9);
const facts: FactsData = {
  people: {},
  registers: {},
  records: {},
  files: {
    q1: { id: "q1", name: "Offer.pdf", size: 12_400, type: "application/pdf", at: AT },
    big: { id: "big", name: "Scan.pdf", size: 10_000_001, type: "application/pdf", at: AT },
    odd: { id: "odd", name: "Offer.exe", size: 10, type: "application/octet-stream", at: AT },
  },
};
const FIELDS: Field[] = [
  {
    id: "quote",
    name: "Quote",
    kind: "file",
    options: ["pdf", ".JPG"],
    max: "10",
    needed: "count(Bills) > 2",
  },
  { id: "copy", name: "Copy", kind: "file", worked: "Quote" },
  {
    id: "bills",
    name: "Bills",
    kind: "lines",
    fields: [
      { id: "bill", name: "Bill", kind: "file" },
      { id: "kb", name: "Size", kind: "number", worked: "Bill.size / 1000" },
    ],
  },
  {
    id: "title",
    name: "Title",
    kind: "text",
    worked: 'if Quote = null then "none" else Quote.name + ", " + string(date(Quote.added))',
  },
  { id: "why", name: "Why none", kind: "text", shown: "is empty(Quote)" },
];
const prepared = prepareForm(FIELDS, { registers: {}, kinds: KINDS });
const program = compileForm(prepared.form, KINDS.fields);
const run = (data: FormData) =>
  evaluateForm(
    program,
    data,
    () => "edit",
    factsFrom(facts, { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") }, KINDS.fields),
  );
const codes = (data: FormData) => run(data).problems.map((p) => `${p.path} ${p.code}`);
const scope = formScope(FIELDS, { registers: {}, kinds: KINDS });

it("is read by formulas with its name, size, kind and when it was added", () => {
  expect(prepared.problems).toEqual([]);
  const r = run({
    quote: "q1",
    bills: [
      { "#": "1", bill: "q1" },
      { "#": "2", bill: null },
    ],
  });
  expect(r.data["title"]).toBe("Offer.pdf, 2026-03-02");
  expect(r.data["copy"]).toBe("q1");
  expect((r.data["bills"] as StoredRow[]).map((l) => l["kb"])).toEqual(["12.4", null]);
  expect(r.shown.has("why")).toBe(false);
  expect(run({}).data["title"]).toBe("none");
  expect(run({}).shown.has("why")).toBe(true);
});

it("is checked where it stands", () => {
  expect(codes({ quote: "q1" })).toEqual([]);
  expect(codes({ quote: "gone" })).toEqual(["quote no-file"]);
  expect(codes({ quote: "big" })).toEqual(["quote file-too-large"]);
  expect(codes({ quote: "odd" })).toEqual(["quote wrong-file"]);
  expect(codes({ bills: ["1", "2", "3"].map((n) => ({ "#": n, bill: "odd" })) })).toEqual(["quote needed"]);
  expect(codes({ bills: [{ "#": "1", bill: "nothing" }] })).toEqual(["bills/1/bill no-file"]);
});

it.each([
  [{}, "a.anything", 25_000_000, []],
  [{}, "a.anything", 25_000_001, ["Quote takes files of up to 25 MB; this one has 25.1 MB."]],
  [{ max: "100" }, "a", 100_000_000, []],
  [{ max: "400" }, "a", 100_000_001, ["Quote takes files of up to 100 MB; this one has 100.1 MB."]],
  [{ max: "0.5" }, "a", 600_000, ["Quote takes files of up to 0.5 MB; this one has 0.6 MB."]],
  [{ options: ["pdf"] }, "Offer.PDF", 1, []],
  [
    { options: ["pdf", "jpg"] },
    "Offer.pdf.exe",
    1,
    ['Quote takes these kinds of files: pdf, jpg; "Offer.pdf.exe" is another.'],
  ],
  [{ options: ["pdf"] }, "pdf", 1, ['Quote takes these kinds of files: pdf; "pdf" is another.']],
])("%j takes %s with %i bytes or says why not", (field, name, bytes, said) =>
  expect(
    fileMistakes(field, name, bytes).map((m) =>
      formProblemSentence({ ...m, path: "q", data: { field: "Quote", ...m.data } }),
    ),
  ).toEqual(said),
);

it("has a type of its own in formulas", () => {
  const type = checkFormula("Quote", scope).type;
  expect(typeInWords(type)).toBe("a file");
  expect(checkFormula("Quote.nam", scope).problems[0]!.mend!.insert).toBe("Quote.name");
  expect(checkFormula('Quote.size > 5 and Quote.type = "application/pdf"', scope).problems).toEqual([]);
  expect(checkFormula("Quote.size", scope, { t: "text" }).problems[0]!.message).toContain(
    "comes to a number",
  );
  expect(checkFormula("Bills.Bill", scope, type).problems[0]!.message).toContain("a list");
  expect(
    completionsAt("Quote.", 6, scope, null, null)
      .options.map((o) => o.label)
      .sort(),
  ).toEqual(["added", "id", "name", "size", "type"]);
  expect(rowsOf("Quote != null and Quote.size > 5", scope)?.rows).toEqual([
    { left: "Quote", relation: "not empty", right: "" },
    { left: "Quote.size", relation: ">", right: "5" },
  ]);
});

it("is guessed from the words of a pasted row", () => {
  expect(
    fieldsFromRows(
      "Photo of damage\nSigned document\nBill\tfile\nProfile",
      KINDS.fields,
      (n) => n,
      () => false,
    ).fields.map((f) => f.kind),
  ).toEqual(["file", "file", "file", "text"]);
});
