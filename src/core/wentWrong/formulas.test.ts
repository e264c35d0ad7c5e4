import { Temporal } from "temporal-polyfill";
import {
  checkFormula,
  context,
  evaluateText,
  listOf,
  NUMBER,
  parseFormula,
  TEXT,
  YESNO,
  type Scope,
} from "../expression";

/** Formulas that once came to something wrong, or were wrongly refused or let pass. Each once cost somebody trust. */
const AT = { now: "2026-03-03T10:00:00Z", zone: "Europe/Dublin" };
const come = (text: string, data: Record<string, unknown> = {}) => evaluateText(text, data, AT).value;

it.each<[string, unknown]>([
  // Text literals have the escapes of rule 35 alone.
  ['matches("7", "^\\d$")', true],
  // Values are equal where all of them is, whatever is called id (DMN 1.5, 10.3.2.13, table 53).
  ['{id: "1", v: 1} = {id: "1", v: 2}', false],
  ['count(distinct values([{id: "1", v: 1}, {id: "1", v: 2}]))', 2],
  ['list contains([{id: "1", v: 1}], {id: "1", v: 2})', false],
  ['index of([{id: "1", v: 1}], {id: "1", v: 2})', []],
  ['count(distinct values([true, "rue"]))', 2],
  ['count(union([true], ["rue"]))', 2],
  // A time keeps the offset of its own day.
  ['time(@"2026-01-05T12:00:00@Europe/Dublin") = time(@"2026-01-05T12:00:00Z")', true],
  ['time(@"2026-07-05T12:00:00@America/Halifax") = time(@"2026-07-05T12:00:00-03:00")', true],
  ['time("23:00:50z") = time("23:00:50+00:00")', true],
  // 34 digits.
  ["odd(9999999999999999999999999999999999)", true],
  ["even(9999999999999999999999999999999999)", false],
  ["modulo(9999999999999999999999999999999999, 2)", 1],
  ["1e-6144 > 0", true],
  ['replace("ab", "(a)", "$10")', "a0b"],
  ['@"2026-03-01T12:00:00Z".timezone', null],
  ["string(date(12345, 1, 1))", "12345-01-01"],
  ["date(string(date(12345, 1, 1))) = date(12345, 1, 1)", true],
  ["date(string(date(-44, 3, 15))) = date(-44, 3, 15)", true],
  ['get value(m: {a: 1}, key: "a")', 1],
  ["count(get entries(m: {a: 1}))", 1],
  // What a formula itself brings is not a field of the same name.
  ["{Total: 5, x: Total * 2}.x", 10],
  ["(function(a) a + 1)(5)", 6],
])("%s comes to %j", (text, want) => expect(come(text, { Total: 100, a: 2 })).toEqual(want));

const SCOPE: Scope = {
  Total: NUMBER,
  Name: TEXT,
  Done: YESNO,
  Lines: listOf(context({ Price: NUMBER, Name: TEXT })),
};
const said = (text: string) => checkFormula(text, SCOPE).problems.length > 0;

it.each(["[1] in [[1], [2]]", "[[{a: 1}]].a", "-null", "for x in 5 return x"])("%s is right", (text) =>
  expect(said(text)).toBe(false),
);
it.each([
  "sum(Lines.Name)",
  "not(Total)",
  "max(Total, Name)",
  'date("1 March")',
  "sort(Lines, function(a, b) a.Cost < b.Cost)",
])("%s is wrong, and said to be", (text) => expect(said(text)).toBe(true));

it("flat chains may be as long as a formula, nesting may not, and neither takes long to refuse", () => {
  const sum = Array.from({ length: 400 }, () => "1").join(" + ");
  const or = Array.from({ length: 400 }, () => "true").join(" or ");
  expect([come(sum), come(or)]).toEqual([400, true]);
  expect(parseFormula("{a:".repeat(1300), {}).problems[0]!.code).toBe("too-long");
});

it.each([
  "count(for i in 1..99999 return (i / 7) ** 0.37)",
  "count(for i in 1..60000 return exp(i / 60000))",
  "count(for i in 1..1000 return get entries(M))",
  "add working days(today(), 100000000)",
  "every x in 1..99999 satisfies some y in 1..99999 satisfies x = y",
  "every x in date(2026, 1, 1)..date(2290, 1, 1) satisfies some y in date(2026, 1, 1)..x satisfies x = y",
  "count(for i in 1..50000 return string(Far))",
  "count(for i in 1..99999 return N * N + N)",
  "count(for i in 1..500 return distinct values(Days))",
  "count(sort(for i in 1..99999 return 99999 - i, function(a, b) a < b))",
])("%s is counted at what it costs, and given up", (text) => {
  const M = Object.fromEntries(Array.from({ length: 5000 }, (_, i) => [`k${i}`, i]));
  const Far = Array.from({ length: 100 }, () => Array.from({ length: 600 }, (_, i) => i));
  const Days = Array.from({ length: 2000 }, (_, i) => Temporal.PlainDate.from("2026-01-01").add({ days: i }));
  const N = 1n << 100n;
  const r = evaluateText(text, { M, Far, Days, N }, { ...AT, fuel: 1_250_000 });
  expect(r.value).toBeNull();
  expect(r.problems.length).toBeGreaterThan(0);
});
