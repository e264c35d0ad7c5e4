import { KINDS } from "@/kinds";
import fc from "fast-check";
import {
  compileForm,
  evaluateForm,
  formForReader,
  mergeEdits,
  prepareForm,
  withoutHidden,
  type Access,
  type Field,
  type FormData,
  type FormResult,
} from ".";
import { made } from "./testForm";

/**
 * What a reader's browser has of a form: it shows what the server found, comes to what the server comes to where it
 * can know all that is read, and is the same to the letter whatever stands in what is hidden.
 */
const outer = fc.constantFrom(
  "B + 1",
  "C * 2",
  "1 / D",
  "A - C",
  "sum(Lines.P)",
  "count(Lines[Q > 1])",
  "sum(for l in reverse(Lines) return l.R)",
  "if B = null then 0 else B",
  'get value(Lines[1], "Q")',
  "count(get entries(Lines[1]))",
  "Lines[item.P > A][1].R",
  "max(Lines.Q) + D",
);
const inner = fc.constantFrom("P + 1", "Q * A", "P / B", "R", "C", "sum(Lines.P)", "Q - D");
const condition = fc.constantFrom(
  "A > 1",
  "B != null",
  "C / D > 1",
  "count(Lines) > 1",
  "sum(Lines.Q) > 2",
  "some l in Lines satisfies l.P > D",
);
const rowCondition = fc.constantFrom("P > 1", "Q > A", "R != null", "C / D > 1");
const maybe = <T>(a: fc.Arbitrary<T>) => fc.option(a, { freq: 1, nil: undefined });
const number = fc.constantFrom("0", "1", "2.5", "7", null);
const field = (name: string, formula: fc.Arbitrary<string>, when: fc.Arbitrary<string>) =>
  fc
    .record({
      worked: maybe(formula),
      copied: maybe(fc.constant(true as const)),
      shown: maybe(when),
      needed: maybe(when),
      must: maybe(when),
    })
    .map(({ must, ...x }): Field => ({
      id: name.toLowerCase(),
      name,
      kind: "number",
      ...(Object.fromEntries(Object.entries(x).filter(([, v]) => v !== undefined)) as Partial<Field>),
      ...(must ? { checks: [{ must, say: `secret of ${name}` }] } : {}),
    }));
const IDS = ["a", "b", "c", "d", "t", "lines", "p", "q", "r"];
const access = fc.record(
  Object.fromEntries(IDS.map((id) => [id, fc.constantFrom<Access[]>("edit", "see", "hide")])),
);
const typed = fc.record({
  top: fc.record({ a: number, b: number, c: number, d: number }),
  rows: fc.array(fc.record({ p: number, q: number, r: number }), { maxLength: 3 }),
});
const form = fc.record({
  fields: fc.tuple(...["A", "B", "C", "D"].map((n) => field(n, outer, condition))),
  columns: fc.tuple(...["P", "Q", "R"].map((n) => field(n, inner, rowCondition))),
  text: fc.constantFrom("It is {A} and {B}.", "{sum(Lines.P)}: {C / D}", "- {D}\n- {A}{{\n{count(Lines)}"),
  access,
});
const dataOf = (t: { top: object; rows: object[] }): FormData =>
  ({ ...t.top, lines: t.rows.map((r, i) => ({ "#": String(i + 1), ...r })) }) as FormData;

function onServer(f: { fields: Field[]; columns: Field[]; text: string; access: Record<string, Access> }) {
  const fields: Field[] = [
    ...f.fields,
    { id: "t", name: "T", kind: "text block", text: f.text },
    { id: "lines", name: "Lines", kind: "lines", fields: f.columns },
  ];
  const { form: prepared } = prepareForm(fields, { registers: {}, kinds: KINDS });
  const program = compileForm(prepared, KINDS.fields);
  const may = (id: string): Access => f.access[id] ?? "hide";
  const hidden = (id: string) =>
    may(id) === "hide" || (["p", "q", "r"].includes(id) && may("lines") === "hide");
  return { fields, prepared, program, may, hidden };
}
type Server = ReturnType<typeof onServer>;
const inBrowser = (reader: ReturnType<typeof formForReader>, data: FormData, before: FormData): FormResult =>
  evaluateForm(
    compileForm(reader.form, KINDS.fields),
    data,
    (id) => reader.access[id] ?? "hide",
    made(),
    new Map(),
    before,
  );
const seen = (s: Server, paths: Iterable<string>) =>
  [...paths].filter((p) => !s.hidden(p.split("/").at(-1)!) && !s.hidden(p.split("/")[0]!)).sort();

it("a browser shows what the server found, hidden or not", () => {
  fc.assert(
    fc.property(form, typed, (f, t) => {
      const s = onServer(f as never);
      // What is kept has been through the server once.
      const kept = evaluateForm(s.program, dataOf(t), () => "edit", made(), new Map(), {}).data;
      const r = evaluateForm(s.program, kept, s.may, made(), new Map(), kept);
      const reader = formForReader(s.prepared, r, s.may, () => false);
      const there = inBrowser(reader, reader.data, withoutHidden(s.fields, kept, s.may));
      expect(withoutHidden(s.fields, there.data, s.may)).toEqual(withoutHidden(s.fields, r.data, s.may));
      expect(seen(s, there.shown)).toEqual(seen(s, r.shown));
      expect(seen(s, there.needed)).toEqual(seen(s, r.needed));
      if (!s.hidden("t")) expect(there.texts).toEqual(r.texts);
    }),
    { seed: 3, numRuns: 1200 },
  );
});

it("what a reader gets is the same whatever stands in what is hidden", () => {
  let differed = 0;
  const told = (s: Server, r: FormResult) =>
    JSON.stringify([
      withoutHidden(s.fields, r.data, s.may),
      seen(s, r.shown),
      seen(s, r.needed),
      seen(s, r.failed.keys()),
      s.hidden("t") ? null : r.texts.get("t"),
    ]);
  fc.assert(
    fc.property(form, typed, typed, (f, one, other) => {
      const s = onServer(f as never);
      const mixed = { top: { ...one.top }, rows: one.rows.map((row) => ({ ...row })) };
      for (const id of ["a", "b", "c", "d"] as const)
        if (s.hidden(id)) (mixed.top as Record<string, unknown>)[id] = other.top[id];
      for (const [i, row] of mixed.rows.entries())
        for (const id of ["p", "q", "r"] as const)
          if (s.hidden(id)) (row as Record<string, unknown>)[id] = other.rows[i]?.[id] ?? null;
      const results = [one, mixed].map((x) => {
        const r = evaluateForm(s.program, dataOf(x), s.may, made());
        return { r, reader: formForReader(s.prepared, r, s.may, () => false) };
      });
      const [x, y] = results as [(typeof results)[0], (typeof results)[0]];
      // What is worked out of hidden values for this reader to see is theirs to see.
      if (told(s, x.r) !== told(s, y.r)) return;
      if (JSON.stringify(one) !== JSON.stringify(mixed)) differed++;
      expect(JSON.stringify(y.reader)).toBe(JSON.stringify(x.reader));
    }),
    { seed: 4, numRuns: 2500 },
  );
  expect(differed).toBeGreaterThan(200);
});

it("what a reader types comes to the same there as on the server, where nothing hidden is read", () => {
  fc.assert(
    fc.property(form, typed, typed, (f, t, then) => {
      const s = onServer(f as never);
      const kept = evaluateForm(s.program, dataOf(t), () => "edit", made(), new Map(), {}).data;
      const first = evaluateForm(s.program, kept, s.may, made(), new Map(), kept);
      const reader = formForReader(s.prepared, first, s.may, () => false);
      // They fill in all they may.
      const edits = Object.fromEntries(
        Object.entries(dataOf(then)).filter(([id]) => reader.access[id] === "edit"),
      ) as FormData;
      const before = withoutHidden(s.fields, kept, s.may);
      const there = inBrowser(
        reader,
        mergeEdits(reader.form.fields, reader.data, edits, (id) => reader.access[id] ?? "hide"),
        before,
      );
      const merged = mergeEdits(s.fields, kept, edits, s.may);
      const here = evaluateForm(s.program, merged, s.may, made(), new Map(), kept);
      for (const x of [...f.fields, ...f.columns]) {
        const reads = ["worked", "shown"].flatMap((place) => [
          ...s.program.reads.of(x.id, place as "worked").all,
        ]);
        const all = new Set([
          x.id,
          ...reads,
          ...reads.flatMap((id) => [...s.program.reads.of(id, "shown").all]),
        ]);
        // Whether what is read is shown may hang on something hidden too, at any depth.
        const deep = new Set(all);
        for (const id of deep)
          for (const p of ["worked", "shown"] as const)
            for (const y of s.program.reads.of(id, p).all) deep.add(y);
        if ([...deep].some(s.hidden)) continue;
        const column = ["p", "q", "r"].includes(x.id);
        const value = (d: FormData) =>
          column ? (d["lines"] as Record<string, unknown>[]).map((row) => row[x.id]) : d[x.id];
        expect([x.id, value(there.data)]).toEqual([x.id, value(here.data)]);
      }
    }),
    { seed: 5, numRuns: 1500 },
  );
});
