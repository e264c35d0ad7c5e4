import fc from "fast-check";
import type { FormData } from "../form";
import { forgetValues } from "./forget";

const scalar = fc.oneof(fc.string(), fc.boolean(), fc.constant(null));
const id = fc.constantFrom("a", "b", "c", "rows", "other");
const row = fc.dictionary(id, scalar).map((r) => ({ ...r, "#": "1" }));
const data = fc.dictionary(id, fc.oneof(scalar, fc.array(row, { maxLength: 3 }))) as fc.Arbitrary<FormData>;

it("keeps every field, row and row's id, empties exactly what is to be forgotten, and twice is once", () => {
  fc.assert(
    fc.property(data, fc.uniqueArray(id), (d, gone) => {
      const fields: ReadonlySet<string> = new Set(gone);
      const out = forgetValues(d, fields);
      expect(Object.keys(out)).toEqual(Object.keys(d));
      for (const [k, v] of Object.entries(d)) {
        if (!Array.isArray(v)) expect(out[k]).toBe(fields.has(k) ? null : v);
        else
          v.forEach((r, i) => {
            const now = (out[k] as typeof v)[i]!;
            expect(now["#"]).toBe(r["#"]);
            for (const [c, x] of Object.entries(r))
              if (c !== "#") expect(now[c]).toBe(fields.has(c) || fields.has(k) ? null : x);
          });
      }
      expect(forgetValues(out, fields)).toEqual(out);
    }),
  );
});
it("whatever was put on top of each other comes to the same without it", () => {
  fc.assert(
    fc.property(data, data, fc.uniqueArray(id), (a, b, gone) => {
      const fields: ReadonlySet<string> = new Set(gone);
      expect({ ...forgetValues(a, fields), ...forgetValues(b, fields) }).toEqual(
        forgetValues({ ...a, ...b }, fields),
      );
    }),
  );
});
