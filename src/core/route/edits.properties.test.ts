import fc from "fast-check";
import { applyEdit, type Edit, type ProcessDefinition } from ".";
import { AROUND, apply, base, problemsOf } from "./testDefinition";
import { anEdit } from "./testEdits";

it("any run of edits is taken back by its inverses, to the letter", () => {
  let applied = 0;
  fc.assert(
    fc.property(fc.array(anEdit, { maxLength: 12 }), (list) => {
      let now = base;
      const inverses: Edit[] = [];
      for (const e of list) {
        const r = applyEdit(now, e, AROUND);
        if (!r.ok) continue;
        applied++;
        now = r.definition;
        inverses.unshift(r.inverse);
        expect(problemsOf(now)).toBeInstanceOf(Array);
      }
      for (const e of inverses) now = apply(now, e).definition;
      expect(canonical(now)).toEqual(canonical(base));
    }),
    { seed: 12, numRuns: 1000 },
  );
  expect(applied).toBeGreaterThan(1000);
});

it("fields that come or go together end as one by one, wherever one by one is let, and are taken back to the letter", () => {
  const ops = ["field.add", "field.remove", "access.set"];
  const seen = { same: 0, together: 0, refused: 0 };
  fc.assert(
    fc.property(
      fc.array(
        fc
          .tuple(
            anEdit.filter((e) => ops.includes(e.op)),
            fc.constantFrom(null, null, "Price", "Qty", "Total", "Urgent"),
            fc.constantFrom(undefined, "Total * 2", "sum(Lines.Price)"),
          )
          .map(([e, name, worked]): Edit => {
            if (e.op !== "field.add") return e;
            // Names that formulas read, where they may be free by then.
            return { ...e, field: { ...e.field, ...(name && { name }), ...(worked && { worked }) } };
          }),
        { minLength: 2, maxLength: 8 },
      ),
      (edits) => {
        let slow: ProcessDefinition | null = base;
        for (const e of edits) {
          const r: ReturnType<typeof applyEdit> | null = slow && applyEdit(slow, e, AROUND);
          slow = r?.ok ? r.definition : null;
        }
        const fast = applyEdit(base, { op: "batch", edits }, AROUND);
        if (slow) {
          expect(fast.ok && canonical(fast.definition)).toEqual(canonical(slow));
          seen.same++;
        } else seen[fast.ok ? "together" : "refused"]++;
        if (!fast.ok) return;
        const back = apply(fast.definition, fast.inverse).definition;
        expect(canonical(back)).toEqual(canonical(base));
      },
    ),
    { seed: 31, numRuns: 1500, endOnFailure: true },
  );
  expect(seen.same).toBeGreaterThan(100);
  expect(seen.refused).toBeGreaterThan(100);
});

/** An access table that says nothing is the same as none. */
const canonical = (d: ProcessDefinition) => ({
  ...d,
  access: Object.fromEntries(Object.entries(d.access).filter(([, t]) => Object.keys(t).length > 0)),
});
