import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import type { Domain } from "../conditions";
import {
  ANY,
  compile,
  DATE,
  environment,
  evaluate,
  INPUT,
  Num,
  NUMBER,
  parseFormula,
  YESNO,
  type Node,
  type Value,
} from "../expression";
import { proveTable, type Example } from "./proveTable";

const NOW = Temporal.ZonedDateTime.from("2026-02-27T09:30[Europe/Dublin]");
const DAYS = Array.from({ length: 8 }, (_, i) => Temporal.PlainDate.from("2026-02-26").add({ days: i }));
const numbers = ["-1", "-0.5", "-0.25", "0", "0.5", "1", "1.5", "2", "3", "5", "6"].map((n) => Num.of(n));
const cents = Array.from({ length: 7 }, (_, i) => Num.of(String(i / 100)));

/** Kinds of inputs with every value there is, as near as the written ones can tell them apart. */
const KINDS: { domain: Domain; values: Value[]; written: string[]; ordered: boolean }[] = [
  { domain: { type: NUMBER }, values: numbers, written: ["0", "1", "2", "5", "-0.5"], ordered: true },
  {
    domain: { type: NUMBER, grain: "0.01", min: Num.of(0), max: Num.of("0.06") },
    values: cents,
    written: ["0.01", "0.02", "0.03", "0.05", "0", "0.025", "0.9"],
    ordered: true,
  },
  {
    domain: { type: DATE },
    values: DAYS,
    written: DAYS.slice(2, 6).map((d) => `date("${d.toString()}")`),
    ordered: true,
  },
  {
    domain: { type: { t: "text", options: ["a", "b", "c"] } },
    values: ["a", "b", "c"],
    written: ['"a"', '"b"', '"c"'],
    ordered: false,
  },
  { domain: { type: { t: "text" } }, values: ["a", "b", "x"], written: ['"a"', '"b"'], ordered: false },
  { domain: { type: YESNO }, values: [true, false], written: ["true", "false"], ordered: false },
];
/** Names that tests which are not written out read. */
const OTHERS: Value[] = [Num.of(1), Num.of(3), "a", null];

const test = ({ written, ordered }: (typeof KINDS)[number]): fc.Arbitrary<string> => {
  const w = fc.constantFrom(...written);
  const single = fc.oneof(
    w,
    ...(ordered
      ? [
          fc.tuple(fc.constantFrom("<", "<=", ">", ">="), w).map(([o, x]) => `${o} ${x}`),
          fc
            .tuple(fc.constantFrom("[", "("), w, w, fc.constantFrom("]", ")"))
            .map(([a, x, y, b]) => `${a}${x}..${y}${b}`),
        ]
      : []),
  );
  return fc.oneof(
    { weight: 3, arbitrary: fc.constant("-") },
    { weight: 8, arbitrary: single },
    { weight: 2, arbitrary: fc.array(single, { minLength: 2, maxLength: 3 }).map((a) => a.join(", ")) },
    {
      weight: 2,
      arbitrary: fc.array(single, { minLength: 1, maxLength: 2 }).map((a) => `not(${a.join(", ")})`),
    },
    { weight: 1, arbitrary: fc.constantFrom("null", "not(null)", "Other", "? = Other", "!= null") },
  );
};

const table = fc
  .array(fc.tuple(fc.constantFrom(...KINDS), fc.boolean()), { minLength: 1, maxLength: 3 })
  .chain((inputs) =>
    fc.record({
      inputs: fc.constant(inputs),
      rules: fc.array(fc.tuple(...inputs.map(([k]) => test(k))), { minLength: 1, maxLength: 5 }),
    }),
  );

const tree = (text: string): Node => parseFormula(text, { [INPUT]: ANY, Other: ANY }).ast!;
const programs = new Map<Node, ReturnType<typeof compile>>();
const programOf = (n: Node) => programs.get(n) ?? programs.set(n, compile(n)).get(n)!;
const holds = (n: Node, v: Value, other: Value): boolean =>
  evaluate(
    programOf(n),
    environment(
      new Map([
        [INPUT, v],
        ["Other", other],
      ]),
      { now: NOW },
    ),
  ) === true;
const combined = <T>(lists: readonly T[][]): T[][] =>
  lists.reduce<T[][]>((out, l) => out.flatMap((x) => l.map((v) => [...x, v])), [[]]);

it("finds gaps, rules that hold at once and rules never gone by just where trying every value does", () => {
  const seen = { complete: 0, gap: 0, open: 0, overlap: 0, behind: 0 };
  fc.assert(
    fc.property(table, ({ inputs, rules }) => {
      const trees = rules.map((r) => r.map(tree));
      const written = rules.map((r) => r.every((t) => !t.includes("Other")));
      const points = combined(inputs.map(([k, needed]) => (needed ? k.values : [...k.values, null])));
      const held = (r: number, at: readonly Value[], other: Value) =>
        trees[r]!.every((n, i) => holds(n, at[i]!, other));
      const prove = (hits: "unique" | "first") =>
        proveTable(
          hits,
          rules.length,
          inputs.map(([k, needed], i) => ({
            domain: k.domain,
            needed,
            tests: rules.map((r, n) => (r[i] === "-" ? "any" : trees[n]![i]!)),
          })),
          () => false,
          (a, b) => a < b,
        );
      const unique = prove("unique");
      const open = (at: readonly Value[]) => !rules.some((_, r) => OTHERS.some((o) => held(r, at, o)));
      const here = { rules, points: points.length };
      if (unique.gap === "none") {
        // Complete is never said of a table that is not: a test that reads another name may always fail.
        const sure = (at: readonly Value[]) => rules.some((_, r) => OTHERS.every((o) => held(r, at, o)));
        expect({ ...here, at: points.filter((at) => !sure(at)) }).toEqual({ ...here, at: [] });
        seen.complete++;
      } else if (unique.gap !== "not proved") {
        const at = unique.gap.at as Value[];
        expect({ ...here, at, open: open(at) }).toEqual({ ...here, at, open: true });
        expect(unique.gap.empty).toBe(at.includes(null));
        // What is only so for nothing is not told while something else falls through.
        if (unique.gap.empty) expect(points.filter((p) => !p.includes(null) && open(p))).toEqual([]);
        seen.gap++;
      } else {
        expect(written).toContain(false);
        seen.open++;
      }
      if (!written.every(Boolean)) return;
      expect({ ...here, gap: unique.gap !== "none" }).toEqual({ ...here, gap: points.some(open) });
      const pairs = rules.flatMap((_, b) =>
        rules
          .slice(0, b)
          .flatMap((_, a) => (points.some((at) => held(a, at, null) && held(b, at, null)) ? [[a, b]] : [])),
      );
      expect({ ...here, pairs: unique.overlaps.map((o) => [o.first, o.second]) }).toEqual({ ...here, pairs });
      for (const o of unique.overlaps) {
        expect(o.sure).toBe(true);
        expect(held(o.first, o.at as Value[], null) && held(o.second, o.at as Value[], null)).toBe(true);
      }
      seen.overlap += pairs.length;
      const never = rules.flatMap((_, r) => {
        const where = points.filter((at) => held(r, at, null));
        if (where.length === 0) return [{ rule: r, why: "impossible" }];
        const behind = where.every((at) => rules.slice(0, r).some((_, b) => held(b, at, null)));
        return behind ? [{ rule: r, why: "behind" }] : [];
      });
      expect({ ...here, never: prove("first").never }).toEqual({ ...here, never });
      seen.behind += never.length;
    }),
    { seed: 17, numRuns: 1500 },
  );
  expect(Math.min(...Object.values(seen))).toBeGreaterThan(60);
});

it("says whether outputs let both hold, and which rule is gone by, as it is told", () => {
  const any = (t: string): Node | "any" => (t === "-" ? "any" : tree(t));
  const input = (...tests: string[]) => [{ domain: { type: NUMBER }, needed: true, tests: tests.map(any) }];
  const agree = proveTable(
    "any",
    3,
    input("< 5", "> 3", "> 4"),
    (a, b) => a + b !== 3,
    () => false,
  );
  expect(agree.overlaps.map((o) => [o.first, o.second])).toEqual([[1, 2]]);
  expect(
    proveTable(
      "collect",
      2,
      input("-", "-"),
      () => false,
      () => true,
    ).overlaps,
  ).toEqual([]);
  // The later one ranks higher.
  const ranked = proveTable(
    "priority",
    2,
    input("< 5", "-"),
    () => true,
    (a, b) => a > b,
  );
  expect(ranked.never).toEqual([{ rule: 0, why: "behind" }]);
});

it("true in the place of a text is a condition of its own, and neither a text nor proved", () => {
  const inputs = [
    { domain: { type: { t: "text" as const, options: ["a", "b"] } }, needed: true, tests: [tree("true")] },
  ];
  expect(holds(tree("true"), "b", null)).toBe(true);
  expect(
    proveTable(
      "unique",
      1,
      inputs,
      () => false,
      () => false,
    ).gap,
  ).toBe("not proved");
});

/** What the last input is in a rule: a stretch of its own. */
function lastOf(r: number, size: number): string {
  if (r === size - 1) return `>= ${r}`;
  return r === 0 ? "< 1" : `[${r}..${r + 1})`;
}

it("a table of rules that never hold at once is proved by counting where looking takes too long", () => {
  const inputs = 7;
  const size = 60;
  // Each rule is one point, and one more rule takes all but those at the last input: many sets of rules are left at once.
  const pick = (seed: number) => ((seed * 7919) % 101) - 50;
  const tests = Array.from({ length: inputs }, (_, i): (Node | "any")[] =>
    Array.from({ length: size }, (_, r) => {
      if (i === inputs - 1) return tree(lastOf(r, size));
      return r % (i + 2) === 0 ? tree(`>= ${pick(r + i)}`) : "any";
    }),
  );
  const made = tests.map((t) => ({ domain: { type: NUMBER }, needed: true, tests: t }));
  const proof = proveTable(
    "unique",
    size,
    made,
    () => false,
    () => false,
  );
  expect(proof.overlaps).toEqual([]);
  const at = (proof.gap as { at: Example }).at as Value[];
  expect(
    tests[0]!.some((_, r) => tests.every((t, i) => t[r] === "any" || holds(t[r] as Node, at[i]!, null))),
  ).toBe(false);
});
