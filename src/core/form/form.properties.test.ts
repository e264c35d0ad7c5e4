import { KINDS } from "@/kinds";
import fc from "fast-check";
import { compileForm, evaluateForm, type FormData, type StoredRow } from ".";
import { edit, made, prepared, row, run } from "./testForm";

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
