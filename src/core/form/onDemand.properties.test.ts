import { KINDS } from "@/kinds";
import fc from "fast-check";
import { compileForm, evaluateForm, prepareForm, type Field, type FormData, type FormResult } from ".";
import { made } from "./testForm";

/**
 * Order on the sheet never matters: a form with its fields and columns in any other order comes to the same values,
 * the same reasons and the same problems, circles and divisions by zero included.
 */
const NAMES = ["A", "B", "C", "D"];
const COLUMNS = ["P", "Q", "R"];
const outer = fc.constantFrom(
  "A",
  "B + 1",
  "C * 2",
  "1 / D",
  "sum(Lines.P)",
  "sum(Lines.R)",
  "count(Lines[Q > 1])",
  "sum(Lines[R / Q > 1].P)",
  "if B = null then 0 else B",
  "max(Lines.Q)",
  "Lines[1].R",
);
const inner = fc.constantFrom(
  "P + 1",
  "Q * A",
  "P / B",
  "sum(Lines.P)",
  "count(Lines[P > Q])",
  "R",
  "C",
  "P / (Q - Q)",
);
const condition = fc.constantFrom("A > 1", "B != null", "C / D > 1", "count(Lines) > 1", "sum(Lines.Q) > 2");
const maybe = <T>(a: fc.Arbitrary<T>) => fc.option(a, { freq: 2, nil: undefined });
const number = fc.constantFrom("0", "1", "2.5", null);
const field = (name: string, formula: fc.Arbitrary<string>) =>
  fc
    .record({
      worked: maybe(formula),
      shown: maybe(condition),
      needed: maybe(condition),
      max: maybe(fc.constant("3")),
    })
    .map((x): Field => ({
      id: name.toLowerCase(),
      name,
      kind: "number",
      ...(Object.fromEntries(Object.entries(x).filter(([, v]) => v !== undefined)) as Partial<Field>),
    }));
const form = fc.record({
  fields: fc.tuple(...NAMES.map((n) => field(n, outer))),
  columns: fc.tuple(...COLUMNS.map((n) => field(n, inner))),
  typed: fc.record(Object.fromEntries(NAMES.map((n) => [n.toLowerCase(), number]))),
  rows: fc.array(fc.record(Object.fromEntries(COLUMNS.map((n) => [n.toLowerCase(), number]))), {
    maxLength: 3,
  }),
  order: fc.shuffledSubarray([0, 1, 2, 3, 4], { minLength: 5 }),
  columnOrder: fc.shuffledSubarray([0, 1, 2], { minLength: 3 }),
});

function come(fields: Field[], data: FormData): FormResult {
  const { form: prepared } = prepareForm(fields, { registers: {}, kinds: KINDS });
  return evaluateForm(compileForm(prepared, KINDS.fields), data, () => "edit", made());
}
/** What a form came to, whatever the order it was come to in. A circle has as many first reasons as fields. */
const told = (r: FormResult) => ({
  data: Object.entries(r.data)
    .map(([k, v]) => [k, Array.isArray(v) ? v.map((row) => Object.entries(row).sort()) : v])
    .sort(),
  shown: [...r.shown].sort(),
  needed: [...r.needed].sort(),
  failed: [...r.failed.keys()].sort(),
  problems: r.problems.map((p) => `${p.path} ${p.code}`).sort(),
});

it("a form comes to the same in whatever order its fields and columns stand", () => {
  let failing = 0;
  fc.assert(
    fc.property(form, ({ fields, columns, typed, rows, order, columnOrder }) => {
      const lines = (cs: Field[]): Field => ({ id: "lines", name: "Lines", kind: "lines", fields: cs });
      const data = { ...typed, lines: rows.map((r, i) => ({ "#": String(i), ...r })) } as FormData;
      const one = come([...fields, lines(columns)], data);
      const all = [...fields, lines(columnOrder.map((i) => columns[i]!))];
      const other = come(
        order.map((i) => all[i]!),
        data,
      );
      if (one.failed.size > 0) failing++;
      expect(told(other)).toEqual(told(one));
    }),
    { seed: 9, numRuns: 1200 },
  );
  expect(failing).toBeGreaterThan(120);
});
