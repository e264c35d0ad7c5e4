import fc from "fast-check";
import {
  checkTemplate,
  mapTemplate,
  NUMBER,
  templateCompletions,
  templateParts,
  TEXT,
  context,
  type Scope,
} from ".";
import { renamedScope, renamedText } from "./testing/renaming";

const scope: Scope = { Total: NUMBER, Store: context({ id: TEXT, Name: TEXT }, "Stores"), Purpose: TEXT };

const piece = fc.oneof(
  fc.constantFrom("{{", "{", "}", '"', " ", "{Total}", "{ Store.Name }", '{"}"}', "{Total + 1}", "{{Total}"),
  fc.string({ maxLength: 4 }),
);
const template = fc.array(piece, { maxLength: 12 }).map((x) => x.join(""));

it("keeps every letter that is not a formula's", () => {
  fc.assert(
    fc.property(template, (t) => mapTemplate(t, (f) => f) === t),
    { seed: 3, numRuns: 800 },
  );
});

it("renames there and back to the letter", () => {
  const renamed = renamedScope(scope, ["Total"], "Sum of all");
  fc.assert(
    fc.property(template, (t) => {
      const there = mapTemplate(t, (f) => renamedText(f, scope, ["Total"], "Sum of all"));
      expect(mapTemplate(there, (f) => renamedText(f, renamed, ["Sum of all"], "Total"))).toBe(t);
      if (templateParts(t).some((p) => "formula" in p && p.formula === "Total"))
        expect(there).toContain("Sum of all");
    }),
    { seed: 5, numRuns: 300 },
  );
});

it("never throws and keeps positions inside the text", () => {
  fc.assert(
    fc.property(template, fc.nat(30), (t, at) => {
      for (const p of checkTemplate(t, scope).problems)
        expect(0 <= p.from && p.from <= p.to && p.to <= t.length).toBe(true);
      const c = templateCompletions(t, Math.min(at, t.length), scope, null);
      expect(c.from).toBeLessThanOrEqual(Math.min(at, t.length));
    }),
    { seed: 7, numRuns: 500 },
  );
});
