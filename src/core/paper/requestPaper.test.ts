import type { Field } from "../form";
import { lengthOf, requestPaper, type PaperWords, type RequestToPrint } from ".";

const words: PaperWords = {
  value: (f, v) => (v === null || v === undefined ? "" : `${f.kind === "money" ? "EUR " : ""}${String(v)}`),
  when: (ms) => `at ${ms}`,
  figures: (f) => f.kind === "money",
  sum: (_, of) => `EUR ${of.reduce<number>((n, x) => n + Number(x), 0)}`,
};
const text = (id: string, more: Partial<Field> = {}): Field => ({
  id,
  name: id.toUpperCase(),
  kind: "text",
  ...more,
});
const lines: Field = {
  id: "lines",
  name: "Lines",
  kind: "lines",
  fields: [text("item"), { id: "price", name: "Price", kind: "money", total: true }, text("secret")],
};
function request(fields: Field[], more: Partial<RequestToPrint> = {}): RequestToPrint {
  const all = fields.flatMap(function open(f): Field[] {
    return [f, ...(f.fields ?? []).flatMap(open)];
  });
  return {
    number: "KEY-0001",
    title: "Key of the tower",
    process: "Store key 1.0.0",
    about: [{ name: "Asked by", value: "Una" }],
    fields,
    access: Object.fromEntries(all.map((f) => [f.id, "see" as const])),
    data: {},
    result: { shown: new Set(all.map((f) => f.id)), texts: new Map(), failed: new Map() },
    passed: [],
    signed: {},
    ink: {},
    letters: [],
    trail: [],
    foot: "KEY-0001 as Una sees it",
    language: "en-IE",
    ...more,
  };
}
const said = (r: RequestToPrint) => JSON.stringify(requestPaper(r, words).blocks);
const facts = (r: RequestToPrint) =>
  requestPaper(r, words)
    .blocks.slice(1)
    .flatMap((b) => (b.is === "facts" ? b.facts.map((f) => `${f.name}: ${f.value}`) : []));

it("says each field that is shown by its label, and of an empty one that it is", () => {
  const fields = [text("a", { label: "What is it?" }), text("b"), text("c")];
  const r = request(fields, { data: { a: "a pot", b: null, c: "never shown" } });
  const shown = { ...r, result: { ...r.result, shown: new Set(["a", "b"]) } };
  expect(facts(shown)).toEqual(["What is it?: a pot", "B: –"]);
});
it("says nothing of what is hidden from its reader, nor of a group in which nothing is left", () => {
  const group: Field = { id: "g", name: "Inside", kind: "section", fields: [text("a")] };
  const r = request([group, text("b")], { data: { a: "hidden", b: "seen" } });
  const cut = { ...r, access: { g: "see" as const, b: "see" as const } };
  expect(said(cut)).not.toContain("hidden");
  expect(said(cut)).not.toContain("Inside");
  expect(said(r)).toContain("Inside");
});
it("sets lines as a table with their numbers and sums, without the columns that are hidden", () => {
  const data = {
    lines: [
      { "#": "x", item: "Glove", price: "2", secret: "s" },
      { "#": "y", item: null, price: "3", secret: "s" },
    ],
  };
  const r = request([lines], { data });
  const { secret: _, ...access } = r.access;
  const failed = new Map([["lines/y/item", "why"]]);
  const paper = requestPaper({ ...r, access, result: { ...r.result, failed } }, words);
  expect(paper.blocks.find((b) => b.is === "table")).toEqual({
    is: "table",
    head: [
      { name: "No.", figures: true },
      { name: "ITEM", figures: false },
      { name: "Price", figures: true },
    ],
    rows: [
      ["1", "Glove", "EUR 2"],
      ["2", "cannot be worked out", "EUR 3"],
    ],
    sums: ["", "", "EUR 5"],
  });
  expect(lengthOf(paper)).toBe(2 + 1 + 2 * 3 + 1 + 1);
});
it("says why something cannot be worked out, in its place", () => {
  const r = request([text("a")], { data: { a: null } });
  const failed = new Map([["a", "Its price is missing."]]);
  expect(facts({ ...r, result: { ...r.result, failed } })).toEqual(["A: Its price is missing."]);
});
it("fills texts in, says where links lead and what a picture shows", () => {
  const block: Field = {
    id: "t",
    name: "Told",
    kind: "text block",
    text: "# Terms\nFor {A} see [the terms](https://example.test/terms).\n\n- one",
    picture: { hash: "0".repeat(64), says: "the gate", width: 2, height: 1 },
  };
  const r = request([block]);
  const texts = new Map([["t", ["a pot"]]]);
  expect(requestPaper({ ...r, result: { ...r.result, texts } }, words).blocks.slice(1, 5)).toEqual([
    { is: "heading", text: "Terms", level: 3 },
    { is: "text", text: "For a pot see the terms (https://example.test/terms)." },
    { is: "list", items: ["one"] },
    { is: "text", text: "Picture: the gate", quiet: true },
  ]);
});
it("says of a signature who gave it and whether what was signed stands; of another value's nothing", () => {
  const sign: Field = { id: "s", name: "Signed", kind: "signature" };
  const signature = { by: "Una", at: 5, value: "f1", hash: "abc", same: false, changed: ["A"], beyond: true };
  const r = request([sign], { data: { s: "f1" }, signed: { s: signature } });
  expect(facts(r)[0]).toBe(
    "Signed: Given with the account of Una, at 5. Fingerprint abc. Changed after signing: A, something you do not see.",
  );
  expect(facts({ ...r, data: { s: "f2" } })).toEqual(["Signed: f2"]);
  const ink = { f1: "data:image/png;base64,AA==", f2: "data:image/png;base64,BB==" };
  expect(said({ ...r, ink })).toContain(ink.f1);
  // The picture of another value than was signed is none.
  expect(said({ ...r, ink, data: { s: "f2" } })).not.toContain("base64");
});
it("tells the trail, what was gone on past, and what was written", () => {
  const r = request([text("a")], {
    passed: [{ key: "k", say: "Too long.", why: "It is urgent.", by: "Una", at: 1 }],
    letters: [{ when: "Monday", who: "Una to Bo", subject: "", text: "Well?", files: ["map.pdf"] }],
    trail: [
      { when: "Monday", says: "Una asked", note: "please", changes: [] },
      { when: "Tuesday", says: "Bo changed it", note: null, changes: ["A: empty, now pot"] },
    ],
  });
  const all = said(r);
  for (const part of [
    "Too long. Una went on all the same: It is urgent.",
    "Without a subject",
    "Una to Bo, Monday",
    "With map.pdf",
    "Una asked\\n“please”",
    "A: empty, now pot",
  ])
    expect(all).toContain(part);
  expect(all.indexOf("Una asked")).toBeLessThan(all.indexOf("Bo changed it"));
  expect(said(request([]))).toContain("Nothing has happened yet.");
});
