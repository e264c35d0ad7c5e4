import { Temporal } from "temporal-polyfill";
import fc from "fast-check";
import {
  checkFormula,
  compile,
  environment,
  evaluate,
  parseFormula,
  valueText,
  type Node,
  type Value,
} from ".";
import { formula, SCOPE, WORLD } from "./testing/mixedNames";
import { rename, renamedScope } from "./testing/renaming";

const NOW = Temporal.ZonedDateTime.from("2026-02-27T09:30[Europe/Dublin]");

const RENAMES = (<[string[], string][]>[
  [["Price"], "Cost"],
  [["Price"], "Net price"],
  [["Total"], "Sum asked"],
  [["Total"], "l"],
  [["Limit"], "Qty"],
  [["Lines", "Price"], "Cost"],
  [["Lines", "Price"], "Total"],
  [["Lines", "Qty"], "How many"],
  [["Lines", "Name"], "a"],
  [["Others", "Total"], "Cost"],
  [["Lines"], "Rows"],
  // One object each, because a parser is set up for each scope.
]).map(([path, next]) => ({ path, next, after: renamedScope(SCOPE, path, next) }));

/** Data as it stands after the rename. */
function renamedWorld(path: readonly string[], next: string): Map<string, Value> {
  const [first, col] = path;
  return new Map(
    Object.entries(WORLD).map(([k, v]): [string, Value] => {
      if (k !== first) return [k, v];
      if (col === undefined) return [next, v];
      const row = (r: Value): Value =>
        new Map([...(r as ReadonlyMap<string, Value>)].map(([c, x]) => [c === col ? next : c, x]));
      return [k, (v as readonly Value[]).map(row)];
    }),
  );
}
const comesTo = (ast: Node | null, names: Map<string, Value>): string =>
  ast ? valueText(evaluate(compile(ast), environment(names, { now: NOW }))) : "unread";

it("a rename changes what no formula comes to, or is refused with the place", () => {
  const seen = { renamed: 0, changed: 0, refused: 0 };
  fc.assert(
    fc.property(formula, fc.constantFrom(...RENAMES), (text, { path, next, after }) => {
      const before = checkFormula(text, SCOPE);
      // A formula that reads what is not there is a mistake already; it may come to mean something.
      if (!before.ast || before.reads.references.some((r) => r.target.t === "nothing")) return;
      const r = rename(text, SCOPE, path, next, after);
      if ("unclear" in r) {
        seen.refused++;
        expect(r.unclear.from).toBeLessThan(r.unclear.to);
        expect(r.unclear.to).toBeLessThanOrEqual(text.length);
        return;
      }
      seen.renamed++;
      if (r.text !== text) seen.changed++;
      const was = comesTo(before.ast, new Map(Object.entries(WORLD)));
      expect([text, comesTo(parseFormula(r.text, after).ast, renamedWorld(path, next))]).toEqual([text, was]);
    }),
    { seed: 31, numRuns: 4000 },
  );
  expect(seen.changed).toBeGreaterThan(300);
  expect(seen.refused).toBeGreaterThan(400);
});
