import fc from "fast-check";
import { managerTree, type TreeNode } from "./managerTree";

const person = (id: string, manager: string | null) => ({
  id,
  name: id.toUpperCase(),
  jobTitle: "",
  manager,
});
const flat = (nodes: readonly TreeNode[]): string[] => nodes.flatMap((n) => [n.id, ...flat(n.manages)]);

it("has those at the top with all below them, and apart whoever has no manager and manages nobody", () => {
  const t = managerTree([
    person("c", "b"),
    person("b", "a"),
    person("a", null),
    person("x", null),
    person("d", "a"),
  ]);
  expect(t.tops).toMatchObject([
    { id: "a", below: 3, manages: [{ id: "b", below: 1, manages: [{ id: "c" }] }, { id: "d" }] },
  ]);
  expect([t.alone.map((p) => p.id), t.circles]).toEqual([["x"], []]);
});

it("a manager who is not here is none", () => {
  expect(managerTree([person("a", "gone"), person("b", "a")]).tops.map((p) => p.id)).toEqual(["a"]);
});

it("goes round no circle for ever, and tells of each once", () => {
  const t = managerTree([
    person("a", "b"),
    person("b", "a"),
    person("c", "a"),
    person("s", "s"),
    person("d", "c"),
  ]);
  expect(t.circles.map((c) => c.map((p) => p.id).sort())).toEqual([["a", "b"], ["s"]]);
  expect(flat(t.tops).sort()).toEqual(["a", "b", "c", "d", "s"].filter((id) => flat(t.tops).includes(id)));
  expect(flat(t.tops)).toEqual(expect.arrayContaining(["a", "c", "d"]));
});

it("whoever manages whom, everybody stands in it exactly once, and circles are those who come to themselves", () => {
  let circles = 0;
  fc.assert(
    fc.property(fc.array(fc.option(fc.nat(14)), { minLength: 1, maxLength: 15 }), (managers) => {
      const people = managers.map((m, i) => person(`p${i}`, m === null ? null : `p${m}`));
      const t = managerTree(people);
      const all = [...flat(t.tops), ...t.alone.map((p) => p.id)];
      // The slow way: up from each, as often as there are people.
      const up = (id: string) => people.find((p) => p.id === id)?.manager ?? null;
      const round = people.filter((p) => {
        let at = up(p.id);
        for (let i = 0; at !== null && i < people.length && at !== p.id; i++) at = up(at);
        return at === p.id;
      });
      expect(
        t.circles
          .flat()
          .map((p) => p.id)
          .sort(),
      ).toEqual(round.map((p) => p.id).sort());
      expect(all.sort()).toEqual(people.map((p) => p.id).sort());
      circles += t.circles.length;
    }),
    { seed: 61, numRuns: 500 },
  );
  expect(circles).toBeGreaterThan(100);
});

it("a line of thousands ends, and shows so many levels with how many follow", () => {
  const line = Array.from({ length: 20_000 }, (_, i) => person(`p${i}`, i === 0 ? null : `p${i - 1}`));
  let [node] = managerTree(line).tops;
  expect(node!.below).toBe(19_999);
  let levels = 1;
  for (; node!.manages[0]; levels++) node = node!.manages[0];
  expect([levels, node!.below]).toEqual([30, 19_970]);
});
it("thousands below one manager are no work of hours", () => {
  const all = [person("top", null), ...Array.from({ length: 20_000 }, (_, i) => person(`p${i}`, "top"))];
  expect(managerTree(all).tops[0]!.manages).toHaveLength(20_000);
});
