import fc from "fast-check";
import { gridMistake, labelPlace, sheetsOf, type LabelGrid } from ".";

const grid = (more: Partial<LabelGrid> = {}): LabelGrid => ({
  across: 3,
  down: 8,
  skip: 0,
  margin: 8,
  ...more,
});

it("fills a sheet row by row behind what is used already, each place once", () => {
  expect(labelPlace(0, grid({ skip: 4 }))).toEqual({ sheet: 0, row: 1, column: 1 });
  expect(labelPlace(20, grid({ skip: 4 }))).toEqual({ sheet: 1, row: 0, column: 0 });
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 6 }),
      fc.integer({ min: 1, max: 20 }),
      fc.nat(119),
      fc.nat(300),
      (a, d, s, n) => {
        const g = grid({ across: a, down: d, skip: s % (a * d) });
        const all = Array.from({ length: n }, (_, i) => labelPlace(i, g));
        expect(new Set(all.map((p) => JSON.stringify(p))).size).toBe(n);
        for (const p of all) expect([p.column < a, p.row < d]).toEqual([true, true]);
        // A slow count of the sheets: places that are taken, or were.
        expect(sheetsOf(n, g)).toBe(n === 0 ? 0 : Math.ceil((n + g.skip) / (a * d)));
      },
    ),
    { endOnFailure: true },
  );
});
it.each<[Partial<LabelGrid>, string | null]>([
  [{}, null],
  [{ across: 6, down: 20, skip: 119 }, null],
  [{ across: 0 }, "Labels across is a whole number from 1 to 6, for example 3."],
  [{ down: 2.5 }, "Labels down is a whole number from 1 to 20, for example 10."],
  [{ margin: Number.NaN }, "The margin in millimetres is a whole number from 0 to 30, for example 15."],
  [{ skip: 24 }, "A sheet has 24 labels; of those at most 23 can be used already."],
])("%j: %s", (more, said) => {
  expect(gridMistake(grid(more))).toBe(said);
});
