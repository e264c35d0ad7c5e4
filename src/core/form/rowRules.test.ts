import fc from "fast-check";
import { KINDS } from "@/kinds";
import { formProblemSentence } from "../words";
import { compileForm, evaluateForm, prepareForm, type Access, type Field, type FormData } from ".";
import { made } from "./testForm";

const table = (more: Partial<Field> = {}): Field => ({
  id: "l",
  name: "Objects",
  kind: "lines",
  fields: [
    { id: "t", name: "Title", kind: "text", unique: true },
    { id: "n", name: "Number", kind: "number", unique: true },
    { id: "w", name: "Twice", kind: "number", worked: "Number * 2" },
  ],
  ...more,
});
const formOf = (f: Field) =>
  compileForm(prepareForm([f], { registers: {}, kinds: KINDS }).form, KINDS.fields);
const run = (program: ReturnType<typeof formOf>, rows: object[], access = (_: string): Access => "edit") =>
  evaluateForm(program, { l: rows.map((r, i) => ({ "#": String(i + 1), ...r })) } as FormData, access, made())
    .problems;
const rows = (n: number) => Array.from({ length: n }, () => ({}));

it.each([
  [0, []],
  [1, ["Objects needs at least 2 lines; this has 1."]],
  [2, []],
  [3, []],
  [4, ["Objects may have 3 lines; this has 4."]],
])("of two to three rows %d are", (n, said) => {
  const program = formOf(table({ min: "2", max: "3" }));
  expect(run(program, rows(n)).map(formProblemSentence)).toEqual(said);
  // Whoever cannot change the table can do nothing about it.
  expect(run(program, rows(n), () => "see")).toEqual([]);
});
it("needed and of two at least, none is one thing that is wrong", () => {
  const program = formOf(table({ needed: "true", min: "2" }));
  expect(run(program, []).map((p) => p.code)).toEqual(["no-lines"]);
});

it("tells rows apart by what stands in a column, numbers by what they are and texts whatever their capitals", () => {
  const program = formOf(table());
  const all = [
    { t: "Vase", n: "1" },
    { t: " vase", n: "2" },
    { t: "Bowl", n: "1.0" },
    { t: "", n: null },
    { t: null, n: null },
    { t: "VASE", n: "3" },
  ];
  expect(run(program, all).map((p) => [p.path, formProblemSentence(p)])).toEqual([
    ["l/2/t", "Line 2: Title “ vase” stands in line 1 already."],
    ["l/6/t", "Line 6: Title “VASE” stands in line 1 already."],
    ["l/3/n", "Line 3: Number “1” stands in line 1 already."],
  ]);
  expect(run(program, all, () => "see")).toEqual([]);
  // Again, over rows that were kept from the time before: one that was alone is so no more.
  expect(run(program, all.slice(0, 1)).length).toBe(0);
  expect(run(program, all.slice(0, 2)).map((p) => p.path)).toEqual(["l/2/t"]);
});

it("as a slow model finds it, with the rows in any order", () => {
  const text = fc.constantFrom("a", "A", "b", " b", "", null);
  const number = fc.constantFrom("1", "1.0", "2", "-0", "0", "x", null);
  fc.assert(
    fc.property(fc.array(fc.record({ t: text, n: number }), { maxLength: 7 }), (all) => {
      const found = run(formOf(table()), all).filter((p) => p.code === "twice");
      const slow = (["t", "n"] as const).flatMap((c) =>
        all.flatMap((r, i) => {
          const key = (v: string | null) => {
            if (v === null || v === "") return null;
            return c === "n" && v !== "x" ? String(Number(v) + 0) : v.trim().toLowerCase();
          };
          const first = all.findIndex((x) => key(x[c]) !== null && key(x[c]) === key(r[c]));
          return first >= 0 && first < i ? [`l/${i + 1}/${c} ${first + 1}`] : [];
        }),
      );
      expect(found.map((p) => `${p.path} ${p.data.limit}`)).toEqual(slow);
    }),
    { numRuns: 300, seed: 8 },
  );
});
