import { Temporal } from "temporal-polyfill";
import { valueText } from "@/core/expression";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  fieldsFromRows,
  keptAs,
  MOST_FILES,
  prepareForm,
  type Field,
  type FileFacts,
  type FormData,
} from "@/core/form";
import { formProblemSentence } from "@/core/words";
import { KINDS } from "@/kinds";

const papers: Field = { id: "p", name: "Papers", kind: "files", options: ["pdf", "png"], max: "3" };
const around = { registers: {}, kinds: KINDS };
const file = (id: string, name: string, size: number): FileFacts => ({ id, name, size, type: "x", at: 0 });
const files = Object.fromEntries(
  [
    file("a", "Offer.pdf", 1_000_000),
    file("b", "Photo.PNG", 1_500_000),
    file("c", "Sheet.pdf", 500_001),
    file("e", "run.exe", 5),
    ...Array.from({ length: MOST_FILES + 1 }, (_, i) => file(`n${i}`, `${i}.pdf`, 1)),
  ].map((f) => [f.id, f]),
);
const facts = factsFrom(
  { people: {}, registers: {}, records: {}, files },
  { now: Temporal.ZonedDateTime.from("2026-03-12T10:00[Europe/Dublin]") },
  KINDS.fields,
);
const form = (fields: Field[], data: FormData) =>
  evaluateForm(compileForm(prepareForm(fields, around).form, KINDS.fields), data, () => "edit", facts);
const worked = (formula: string, kind: Field["kind"] = "text"): Field => ({
  id: "x",
  name: "X",
  kind,
  worked: formula,
});

it.each<[string, Field["kind"], string | null, string | boolean | null]>([
  ["count(Papers)", "number", "a\nb", "2"],
  ["count(Papers)", "number", null, "0"],
  ["is empty(Papers)", "yes or no", null, true],
  ["Papers[1].name", "text", "b\na", "Photo.PNG"],
  ["Papers[-1]", "file", "b\na", "a"],
  ["sum(Papers.size)", "number", "a\nb", "2500000"],
  ['Papers[ends with(name, ".pdf")]', "files", "a\nb\nc", "a\nc"],
  ["Papers[size > 99999999]", "files", "a\nb", null],
  ["Papers[1]", "files", "a\nb", "a"],
])("%s, as %s, of %j is %j", (formula, kind, raw, is) => {
  const fields = [papers, worked(formula, kind)];
  expect(prepareForm(fields, around).problems).toEqual([]);
  const r = form(fields, { p: raw });
  expect([...r.failed]).toEqual([]);
  expect(r.data["x"] ?? null).toBe(is);
});

const said = (raw: string | null, more: Partial<Field> = {}) =>
  form([{ ...papers, ...more }], { p: raw }).problems.map(formProblemSentence);

it.each<[string, string | null, Partial<Field>, string[]]>([
  ["those that fit", "a\nb", {}, []],
  ["none, where none is needed", null, {}, []],
  ["none, where some are", null, { needed: "true" }, ["Papers is needed."]],
  [
    "too much together, though each is small enough",
    "a\nb\nc",
    {},
    ["Papers takes files of up to 3 MB together; these have 3.1 MB."],
  ],
  ["one twice, which is one", "b\nb\nb", {}, []],
  [
    "another kind among them",
    "a\ne",
    {},
    ['Papers takes these kinds of files: pdf, png; "run.exe" is another.'],
  ],
  [
    "one that is not there among others",
    "a\nnone",
    {},
    ["Papers: this file is not there any more, or not yours. Add it again."],
  ],
  ["nothing but a line, which is none", "\n", { needed: "true" }, ["Papers is needed."]],
  [
    "more than there may be",
    Array.from({ length: MOST_FILES + 1 }, (_, i) => `n${i}`).join("\n"),
    {},
    ["Papers takes up to 50 files; these are 51."],
  ],
])("says what is wrong with %s", (_, raw, more, sentences) => {
  expect(said(raw, more)).toEqual(sentences);
});

it("says what is wrong with how it is set up", () => {
  const problems = (more: Partial<Field>) => {
    const out: string[] = [];
    KINDS.fields.files.problems(
      { ...papers, ...more },
      {
        registers: {},
        say: (_, code, __, place) => void out.push(`${code} ${place}`),
      },
    );
    return out;
  };
  expect(problems({})).toEqual([]);
  expect(problems({ max: "100" })).toEqual([]);
  for (const max of ["0", "-1", "101", "much"]) expect(problems({ max })).toEqual(["bad-size max"]);
  expect(problems({ options: ["pdf", "no ending"] })).toEqual(["bad-ending options"]);
});

it("keeps what a formula gives, and nothing that is no file", () => {
  const kept = (v: Parameters<typeof keptAs>[1]) => keptAs(papers, v, KINDS.fields, facts);
  expect(kept([facts.file("b"), facts.file("a")])).toEqual({ kept: "b\na" });
  expect(kept(facts.file("a"))).toEqual({ kept: "a" });
  expect(kept([])).toEqual({ kept: null });
  expect(kept([facts.file("a"), "Offer.pdf"])).toEqual({ why: expect.stringContaining("cannot be kept") });
  expect(valueText(facts.file("a")!)).not.toBe("a");
});

it("is guessed from words for several, and one file from a word for one", () => {
  const kinds = fieldsFromRows(
    "Photos\nPhoto\nAttachments\nQuote pdf",
    KINDS.fields,
    (n) => n,
    () => false,
  );
  expect(kinds.fields.map((f) => f.kind)).toEqual(["files", "file", "files", "file"]);
  expect(
    fieldsFromRows(
      "A\tFiles\nB\tfile\nC\tfile upload",
      KINDS.fields,
      (n) => n,
      () => false,
    ).fields.map((f) => f.kind),
  ).toEqual(["files", "file", "file"]);
});
