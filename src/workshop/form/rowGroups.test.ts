import { rowGroups } from "./rowGroups";

const rows = Array.from({ length: 300 }, (_, i) => `field${i}`);
const groups = (r: readonly string[]) => rowGroups(r, (id) => id);

it("holds every row once, in order, in groups of a handful", () => {
  expect(groups(rows).flatMap((g) => g.rows)).toEqual(rows);
  expect(groups(rows).length).toBeGreaterThan(20);
  expect(Math.max(...groups(rows).map((g) => g.rows.length))).toBeLessThan(50);
  expect(groups([])).toEqual([]);
});

it("one row more, less or elsewhere changes the groups it leaves and enters, and no other", () => {
  const before = new Map(groups(rows).map((g) => [g.key, g.rows.join()]));
  const changed = (r: readonly string[]) =>
    groups(r).filter((g) => before.get(g.key) !== g.rows.join()).length;
  for (const i of [0, 1, 7, 40, 150, 298]) {
    expect(changed(rows.toSpliced(i, 0, "new"))).toBeLessThanOrEqual(2);
    expect(changed(rows.toSpliced(i, 1))).toBeLessThanOrEqual(2);
    expect(changed(rows.toSpliced(i, 2, rows[i + 1]!, rows[i]!))).toBeLessThanOrEqual(3);
  }
});
