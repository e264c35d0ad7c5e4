import fc from "fast-check";
import { checkFormula } from "./check";
import { completionsAt } from "./complete";
import { formulaOf, rowNames, rowsOf, relationsFor, standsAlone, type ConditionRow } from "./rows";
import { YESNO } from "./types";
import { NAMES, SCOPE } from "./testing/loan";

it("never throws, wherever the caret stands", () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.constantFrom(
          "Total",
          " ",
          ".",
          "(",
          "[",
          "]",
          ")",
          '"',
          "Items",
          "for x in ",
          " return ",
          "=",
          "and ",
          "Store",
          ",",
          "{",
          "\\",
        ),
        { maxLength: 14 },
      ),
      fc.nat(80),
      (parts, n) => {
        const text = parts.join("");
        const { from, options } = completionsAt(text, Math.min(n, text.length), SCOPE, YESNO, NAMES);
        expect(from).toBeLessThanOrEqual(text.length);
        expect(options.length).toBeLessThanOrEqual(80);
      },
    ),
    { seed: 31, numRuns: 1500 },
  );
});

const row = fc
  .constantFrom(...rowNames(SCOPE).filter((n) => n.type.t !== "context"))
  .chain(({ path, type }) =>
    fc.constantFrom(...relationsFor(type)).chain((relation) => {
      const TYPED: Partial<Record<string, string[]>> = {
        number: ["500", "-1.5", "0"],
        date: ["2026-03-01", "2024-02-29"],
      };
      const texts = TYPED[type.t] ?? ["frost", 'it "says"', "", "a\\b"];
      const right = fc.constantFrom(...(standsAlone(relation) ? [""] : texts));
      return right.map((r): ConditionRow => ({ left: path, relation, right: r }));
    }),
  );
it("rows that go together in one's own way are the same once they were written and read", () => {
  fc.assert(
    fc.property(
      fc.array(row, { minLength: 3, maxLength: 3 }),
      fc.constantFrom("1 and (2 or 3)", "(1 or 2) and not 3", "not (1 and 2) or 3", "1 and 2 or 3 and not 1"),
      (rows, logic) => {
        const text = formulaOf({ join: "own", rows, logic }, SCOPE)!;
        const again = rowsOf(text, SCOPE)!;
        expect(again).not.toBeNull();
        expect(formulaOf(again, SCOPE)).toBe(formulaOf(rowsOf(formulaOf(again, SCOPE)!, SCOPE)!, SCOPE));
        const yesno = checkFormula(text, SCOPE, YESNO).problems;
        expect(yesno.filter((p) => !p.message.includes("choices"))).toEqual([]);
        for (const r of rows) expect(again.rows.some((x) => x.left === r.left)).toBe(true);
      },
    ),
    { seed: 33, numRuns: 400, endOnFailure: true },
  );
});
it("written out and read back are the same, and the formula has no mistake", () => {
  fc.assert(
    fc.property(
      fc.constantFrom<"all" | "any">("all", "any"),
      fc.array(row, { minLength: 1, maxLength: 4 }),
      (join, rows) => {
        const text = formulaOf({ join, rows }, SCOPE)!;
        const again = rowsOf(text, SCOPE)!;
        expect(again.rows).toEqual(rows);
        if (rows.length > 1) expect(again.join).toBe(join);
        expect(
          checkFormula(text, SCOPE, YESNO).problems.filter((p) => !p.message.includes("choices")),
        ).toEqual([]);
      },
    ),
    { seed: 32, numRuns: 1000 },
  );
});
