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

/** An access table that says nothing is the same as none. */
const canonical = (d: ProcessDefinition) => ({
  ...d,
  access: Object.fromEntries(Object.entries(d.access).filter(([, t]) => Object.keys(t).length > 0)),
});
