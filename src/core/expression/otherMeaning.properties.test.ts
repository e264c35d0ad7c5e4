import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import {
  checkFormula,
  compile,
  context,
  environment,
  evaluate,
  NUMBER,
  otherMeaning,
  TEXT,
  valueText,
  type Node,
  type Scope,
  type Type,
  type Value,
} from ".";
import { formula, group, num, rowsOf, SCOPE, WORLD } from "./testing/mixedNames";

/**
 * Fields and columns come and go under names that others have: a formula that reads the same things before and after
 * comes to the same; one that would come to something else is found.
 */
const NOW = Temporal.ZonedDateTime.from("2026-02-27T09:30[Europe/Dublin]");

interface Change {
  scope: Scope;
  world: Map<string, Value>;
}
const without = <T>(o: Readonly<Record<string, T>>, key: string): Record<string, T> =>
  Object.fromEntries(Object.entries(o).filter(([k]) => k !== key));

/** The lines with one column more, or one fewer. */
function columns(change: (c: Record<string, Type>) => Record<string, Type>): Change {
  const now = change({ Price: NUMBER, Name: TEXT, Qty: NUMBER });
  const rows = (WORLD["Lines"] as ReadonlyMap<string, Value>[]).map((r) =>
    group(Object.fromEntries(Object.keys(now).map((c) => [c, r.get(c) ?? num(100)]))),
  );
  return {
    scope: { ...SCOPE, Lines: rowsOf(now, "Lines") },
    world: new Map([...Object.entries(WORLD), ["Lines", rows] as [string, Value]]),
  };
}
const CHANGES: Change[] = [
  columns((c) => ({ ...c, Total: NUMBER })),
  columns((c) => ({ ...c, Limit: NUMBER })),
  columns((c) => ({ ...c, l: NUMBER })),
  columns((c) => without(c, "Price")),
  columns((c) => without(c, "Qty")),
  { scope: { ...SCOPE, Qty: NUMBER }, world: new Map([...Object.entries(WORLD), ["Qty", num(100)]]) },
  { scope: without(SCOPE, "Price"), world: new Map(Object.entries(without(WORLD, "Price"))) },
  {
    scope: { ...SCOPE, a: context({ Price: NUMBER }) },
    world: new Map([...Object.entries(WORLD), ["a", group({ Price: num(100) })]]),
  },
];
/** Names inside filters and loops, where the change of a table shows. */
const word = fc.constantFrom("Price", "Qty", "Total", "Limit", "2", "item.Qty");
const inside = fc.oneof(
  fc.tuple(word, word, word).map(([a, b, c]) => `sum(Lines[${a} >= ${b}].Qty) + sum(Lines[${c} < 3].Qty)`),
  fc.tuple(word, word).map(([a, b]) => `count(Lines[some x in Others satisfies x.Total * ${a} > ${b}])`),
  fc
    .tuple(word, word)
    .map(
      ([a, b]) =>
        `sum(for l in Lines return ${a === "item.Qty" ? "l.Qty" : a} * l.Qty) + count(Lines[${b} > 1])`,
    ),
  fc.tuple(word, word).map(([a, b]) => `count(Lines[count(Others[${a} > 2]) > 0 and ${b} > 1])`),
);
const comesTo = (ast: Node, names: Map<string, Value>): string =>
  valueText(evaluate(compile(ast), environment(names, { now: NOW })));

it("what reads the same things comes to the same, and what does not is found", () => {
  const seen = { same: 0, found: 0, differing: 0 };
  const world = new Map(Object.entries(WORLD));
  fc.assert(
    fc.property(
      fc.oneof({ arbitrary: inside, weight: 2 }, formula),
      fc.constantFrom(...CHANGES),
      (text, after) => {
        const [was, is] = [checkFormula(text, SCOPE), checkFormula(text, after.scope)];
        if (!was.ast || !is.ast || was.problems.length > 0 || is.problems.length > 0) return;
        // Rows used whole have more or fewer entries by rights; what is known only when it runs cannot be told.
        const open = [...was.reads.references, ...is.reads.references].some(
          (r) => r.target.t === "unknown" || r.target.t === "nothing",
        );
        if (open || was.reads.wholes.length + is.reads.wholes.length > 0) return;
        const here = (scope: Scope) => ({
          scope,
          declared: (n: string) => (Object.hasOwn(scope, n) ? n : null),
        });
        const other = otherMeaning(text, here(SCOPE), here(after.scope));
        const same = comesTo(is.ast, after.world) === comesTo(was.ast, world);
        if (other) {
          seen.found++;
          expect(text.slice(other.from, other.to)).toContain(other.name);
          if (!same) seen.differing++;
          return;
        }
        seen.same++;
        expect([text, same]).toEqual([text, true]);
      },
    ),
    { seed: 17, numRuns: 1800 },
  );
  expect(seen.same).toBeGreaterThan(500);
  expect(seen.differing).toBeGreaterThan(25);
});
