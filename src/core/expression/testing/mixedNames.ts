import fc from "fast-check";
import { context, listOf, Num, NUMBER, TEXT, type Scope, type Type, type Value } from "..";

/** Formulas in which names of fields, of columns and of what a formula itself brings are the same words. */
export const rowsOf = (fields: Record<string, Type>, rows: string): Type =>
  listOf({ ...context(fields), rows } as Type);
export const SCOPE: Scope = {
  Price: NUMBER,
  Total: NUMBER,
  Limit: NUMBER,
  Lines: rowsOf({ Price: NUMBER, Name: TEXT, Qty: NUMBER }, "Lines"),
  Others: rowsOf({ Price: NUMBER, Total: NUMBER }, "Others"),
  Box: context({ Price: NUMBER, Size: NUMBER }, "boxes"),
};
export const group = (o: Record<string, Value>): Value => new Map(Object.entries(o));
export const num = (n: number) => Num.of(n);
export const WORLD: Record<string, Value> = {
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
export const formula = fc.letrec<{ n: string; rows: string; yes: string }>((tie) => {
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
