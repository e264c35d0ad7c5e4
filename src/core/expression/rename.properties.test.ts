import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import {
  checkFormula,
  compile,
  context,
  environment,
  evaluate,
  listOf,
  Num,
  NUMBER,
  parseFormula,
  TEXT,
  valueText,
  type Node,
  type Scope,
  type Type,
  type Value,
} from ".";
import { rename, renamedScope } from "./testing/renaming";

const rowsOf = (fields: Record<string, Type>, rows: string): Type =>
  listOf({ ...context(fields), rows } as Type);
const SCOPE: Scope = {
  Price: NUMBER,
  Total: NUMBER,
  Limit: NUMBER,
  Lines: rowsOf({ Price: NUMBER, Name: TEXT, Qty: NUMBER }, "Lines"),
  Others: rowsOf({ Price: NUMBER, Total: NUMBER }, "Others"),
  Box: context({ Price: NUMBER, Size: NUMBER }, "boxes"),
};
const NOW = Temporal.ZonedDateTime.from("2026-02-27T09:30[Europe/Dublin]");
const group = (o: Record<string, Value>): Value => new Map(Object.entries(o));
const num = (n: number) => Num.of(n);
const WORLD: Record<string, Value> = {
  Price: num(3),
  Total: num(10),
  Limit: num(2),
  Lines: [
    group({ Price: num(1), Name: "b", Qty: num(5) }),
    group({ Price: num(4), Name: "a", Qty: num(2) }),
    group({ Price: num(2), Name: "a", Qty: num(0) }),
  ],
  Others: [group({ Price: num(4), Total: num(1) }), group({ Price: num(9), Total: num(3) })],
  Box: group({ Price: num(7), Size: num(2) }),
};

/** Names of fields, of columns and of what a formula itself may bring, all mixed. */
const name = fc.constantFrom("Price", "Price", "Total", "Limit");
const own = fc.constantFrom("Price", "Total", "Cost", "l", "a");
const column = fc.constantFrom("Price", "Price", "Price", "Price", "Qty", "Total");
const formula = fc.letrec<{ n: string; rows: string; yes: string }>((tie) => {
  const n = tie("n");
  const rows = tie("rows");
  const yes = tie("yes");
  const put = (...parts: (string | fc.Arbitrary<string>)[]) =>
    fc.tuple(...parts.map((p) => (typeof p === "string" ? fc.constant(p) : p))).map((p) => p.join(""));
  return {
    n: fc.oneof(
      { depthSize: "small", withCrossShrink: true },
      name,
      put(fc.constantFrom("Box", "Lines[1]", "Others[-1]"), ".Price"),
      fc.integer({ min: 0, max: 9 }).map(String),
      put("(", n, fc.constantFrom(" + ", " - ", " * "), n, ")"),
      put(fc.constantFrom("sum", "count", "max"), "(", rows, ".", column, ")"),
      put("count(", rows, ")"),
      put(rows, "[1].", column),
      put("sum(for l in ", rows, " return l.", column, " + ", n, ")"),
      put("sum(for ", own, " in ", rows, " return ", n, ")"),
      put("sum(for ", own, " in 1..3 return ", n, ")"),
      put("{", own, ": ", n, ", x: ", n, "}.x"),
      put("{x: ", n, ", ", own, ": x + ", n, "}.x"),
      put("(function(", own, ") ", n, ")(", n, ")"),
      put("(function(l) l.", column, " + ", n, ")(", rows, "[1])"),
      put("get value(", rows, '[1], "', column, '")'),
      put("total by(", rows, ', "', column, '", "', column, '")[1].total'),
      put("total by(", rows, ", function(l) l.", column, ', "', column, '")[1].key'),
      put("{f: function(l) l.", column, ", r: f(", rows, "[1])}.r"),
      put("if ", yes, " then ", n, " else ", n),
      put("count(get entries(", rows, "[1]))"),
      put("string length(string(", rows, "[1]))"),
    ),
    rows: fc.oneof(
      { depthSize: "small", withCrossShrink: true },
      fc.constantFrom("Lines", "Others", "Lines"),
      put(rows, "[", yes, "]"),
      put(rows, "[", column, " > ", n, "]"),
      put(rows, "[item.", column, " > ", n, "]"),
      put("reverse(", rows, ")"),
      put("concatenate(", rows, ", ", rows, ")"),
      put("sort(", rows, ", function(a, b) a.", column, " < b.", column, ")"),
      put("sort(", rows, ", function(", own, ", b) ", n, " < b.", column, ")"),
      put("list replace(", rows, ", function(item, b) item.", column, " > 2, ", rows, "[1])"),
      put("distinct values(", rows, ")"),
      put("(for ", own, " in ", rows, " return {Price: ", n, ", ", own, ": ", n, "})"),
      put("[", rows, "[1], {", own, ": ", n, "}]"),
    ),
    yes: fc.oneof(
      { depthSize: "small", withCrossShrink: true },
      put(n, fc.constantFrom(" > ", " = ", " <= "), n),
      put("some ", own, " in ", rows, " satisfies ", n, " > ", n),
      put("list contains(", rows, ", ", rows, "[1])"),
      put(rows, "[1] = ", rows, "[2]"),
      put(rows, '[1] = {Price: 1, Name: "b", Qty: 5}'),
      put(rows, "[1] instance of context<Price: number>"),
      put("is empty(", n, ")"),
    ),
  };
}).n;

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
