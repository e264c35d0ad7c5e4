import { Decimal } from "decimal.js";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import type { Node } from "./ast";
import { compile, evaluate } from "./compile";
import { secondsOf, isDaysTime } from "./durations";
import { evaluateText, fromPlain } from "./evaluateText";
import { slowly } from "./testing/slowInterpreter";
import { Num, type Rounding } from "./numbers";
import { parseFormula } from "./parse";
import { printFormula } from "./print";
import { compileRegex } from "./regex";
import { environment } from "./run";
import { context, listOf, NUMBER, TEXT, YESNO, type Scope } from "./types";
import { valueText, type Value } from "./values";

const NOW = Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]");
const D = Decimal.clone({ precision: 34, rounding: Decimal.ROUND_HALF_EVEN, maxE: 6144, minE: -6143 });

/** Numbers around every border of the fast path: cents, 15 and 16 digits, long fractions, powers of ten, zero. */
const decimalText = fc.oneof(
  fc.integer({ min: -1_000_000, max: 1_000_000 }).map(String),
  fc
    .tuple(fc.integer({ min: -99_999_999, max: 99_999_999 }), fc.integer({ min: 0, max: 99 }))
    .map(([a, b]) => `${a}.${String(b).padStart(2, "0")}`),
  fc.maxSafeInteger().map(String),
  fc.bigInt({ min: -(10n ** 33n), max: 10n ** 33n }).map(String),
  fc
    .tuple(fc.bigInt({ min: -(10n ** 17n), max: 10n ** 17n }), fc.stringMatching(/^[0-9]{1,16}$/))
    .map(([a, b]) => `${a}.${b}`),
  fc.constantFrom(
    "0",
    "-0",
    "0.000",
    "1",
    "-1",
    "0.1",
    "9007199254740991",
    "9007199254740992",
    "-9007199254740993",
    "0.0000000000000001",
    "999999999999999",
    "0.999999999999999",
    "1e15",
    "1e-15",
    "1e33",
    "123456789.123456789",
  ),
);
const plain = (d: Decimal): string => (d.isZero() ? "0" : d.toFixed());

describe("decimals", () => {
  it("are those of decimal.js, whichever way they are kept", () => {
    fc.assert(
      fc.property(decimalText, decimalText, (a, b) => {
        const [x, y, p, q] = [
          Num.of(a),
          Num.of(b),
          new D(a).toSignificantDigits(34),
          new D(b).toSignificantDigits(34),
        ];
        expect(x.toFixed()).toBe(plain(p));
        expect(x.plus(y).toFixed()).toBe(plain(p.plus(q)));
        expect(x.minus(y).toFixed()).toBe(plain(p.minus(q)));
        expect(x.times(y).toFixed()).toBe(plain(p.times(q)));
        if (!q.isZero()) expect(x.div(y).toFixed()).toBe(plain(p.div(q)));
        expect(x.comparedTo(y)).toBe(p.comparedTo(q));
        expect(x.negated().toFixed()).toBe(plain(p.negated()));
        expect(x.isInteger()).toBe(p.isInteger());
        expect(x.abs().toFixed()).toBe(plain(p.abs()));
      }),
      { seed: 1, numRuns: 4000 },
    );
  });

  it("round as decimal.js does, before and behind the point", () => {
    const modes: [Rounding, Decimal.Rounding][] = [
      ["up", 0],
      ["down", 1],
      ["ceiling", 2],
      ["floor", 3],
      ["half up", 4],
      ["half down", 5],
      ["half even", 6],
    ];
    fc.assert(
      fc.property(
        decimalText,
        fc.integer({ min: -4, max: 8 }),
        fc.constantFrom(...modes),
        (a, places, [how, mode]) => {
          const d = new D(a).toSignificantDigits(34);
          const unit = new D(10).pow(-places);
          const want =
            places >= 0 ? d.toDecimalPlaces(places, mode) : d.div(unit).toDecimalPlaces(0, mode).times(unit);
          expect(Num.of(a).round(places, how).toFixed()).toBe(plain(want));
        },
      ),
      { seed: 2, numRuns: 3000 },
    );
  });

  const METHODS = { "+": "plus", "-": "minus", "*": "times" } as const;
  it("stay exact through long sums and products of mixed sizes", () => {
    fc.assert(
      fc.property(
        fc.array(decimalText, { minLength: 2, maxLength: 12 }),
        fc.array(fc.constantFrom("+" as const, "-" as const, "*" as const), { minLength: 11, maxLength: 11 }),
        (texts, ops) => {
          let [x, d] = [Num.of(texts[0]!), new D(texts[0]!).toSignificantDigits(34)];
          texts.slice(1).forEach((t, i) => {
            const [y, e] = [Num.of(t), new D(t).toSignificantDigits(34)];
            x = x[METHODS[ops[i]!]](y);
            d = d[METHODS[ops[i]!]](e);
          });
          expect(x.toFixed()).toBe(plain(d));
        },
      ),
      { seed: 3, numRuns: 1500 },
    );
  });
});

// ---- random trees ----
const at = { from: 0, to: 0 };
const SCOPE: Scope = {
  n: NUMBER,
  m: NUMBER,
  t: TEXT,
  y: YESNO,
  u: YESNO,
  "two words": NUMBER,
  ns: listOf(NUMBER),
  ls: listOf(context({ a: NUMBER, b: TEXT, c: YESNO })),
};
const WORLDS = [
  {
    n: 3,
    m: -2.5,
    t: "frost",
    y: true,
    u: false,
    "two words": 0,
    ns: [1, 2, 3, null],
    ls: [
      { a: 1, b: "x", c: true },
      { a: 5, b: "y", c: false },
      { a: null, b: null, c: null },
    ],
  },
  { n: null, m: 0.1, t: "", y: null, u: true, "two words": 12, ns: [], ls: [] },
  { n: 0, m: 1e20, t: null, y: false, u: null, "two words": null, ns: [-1], ls: [{ a: 2, b: "frost" }] },
].map((w) => new Map(Object.entries(w).map(([k, v]) => [k, fromPlain(v)])));

const { tree } = fc.letrec<{ tree: Node; leaf: Node }>((tie) => {
  const sub = tie("tree");
  const name = (...names: string[]) =>
    fc.constantFrom(...names).map((x): Node => ({ ...at, k: "name", name: x }));
  return {
    leaf: fc.oneof(
      fc.constantFrom("0", "1", "2.5", "100", "0.01").map((text): Node => ({ ...at, k: "num", text })),
      fc
        .constantFrom("", "frost", "x", 'it "says"', "a\\b\n")
        .map((text): Node => ({ ...at, k: "str", text })),
      fc.boolean().map((value): Node => ({ ...at, k: "bool", value })),
      fc.constant<Node>({ ...at, k: "null" }),
      fc
        .constantFrom("2026-02-28", "2026-03-01T10:00:00", "P1M", "PT36H", "10:30:00")
        .map((text): Node => ({ ...at, k: "at", text })),
      name("n", "m", "t", "y", "u", "two words", "ns", "ls"),
    ),
    tree: fc.oneof(
      { maxDepth: 4, withCrossShrink: true },
      tie("leaf"),
      fc
        .tuple(fc.constantFrom("+", "-", "*", "/"), sub, sub)
        .map(([op, left, right]): Node => ({ ...at, k: "arith", op: op as "+", left, right })),
      fc
        .tuple(fc.constantFrom("=", "!=", "<", "<=", ">", ">="), sub, sub)
        .map(([op, left, right]): Node => ({ ...at, k: "cmp", op: op as "=", left, right })),
      fc
        .tuple(fc.constantFrom<"and" | "or">("and", "or"), sub, sub)
        .map(([k, left, right]): Node => ({ ...at, k, left, right })),
      fc
        .tuple(sub, sub, sub)
        .map(([cond, then, other]): Node => ({ ...at, k: "if", cond, then, else: other })),
      fc.tuple(sub, sub, sub).map(([of, low, high]): Node => ({ ...at, k: "between", of, low, high })),
      fc.array(sub, { maxLength: 3 }).map((items): Node => ({ ...at, k: "list", items })),
      fc.tuple(sub, sub).map(([a, b]): Node => ({
        ...at,
        k: "ctx",
        entries: [
          { key: "a", value: a },
          { key: "b", value: b },
        ],
      })),
      fc
        .tuple(sub, fc.constantFrom("a", "b", "year", "days"))
        .map(([of, p]): Node => ({ ...at, k: "path", of, name: p })),
      fc.tuple(sub, sub).map(([of, by]): Node => ({ ...at, k: "filter", of, by })),
      fc
        .tuple(
          sub,
          fc.constantFrom<Node>(
            { ...at, k: "name", name: "item" },
            { ...at, k: "name", name: "a" },
            { ...at, k: "name", name: "c" },
          ),
          sub,
        )
        .map(([of, left, right]): Node => ({
          ...at,
          k: "filter",
          of,
          by: { ...at, k: "cmp", op: ">", left, right },
        })),
      fc.tuple(sub, sub).map(([source, body]): Node => ({
        ...at,
        k: "for",
        iters: [{ name: "i", in: source }],
        body: { ...at, k: "list", items: [{ ...at, k: "name", name: "i" }, body] },
      })),
      fc.tuple(fc.boolean(), sub, sub).map(([every, source, right]): Node => ({
        ...at,
        k: "quant",
        every,
        iters: [{ name: "i", in: source }],
        body: { ...at, k: "cmp", op: "<", left: { ...at, k: "name", name: "i" }, right },
      })),
      fc
        .tuple(sub, fc.array(sub, { minLength: 1, maxLength: 2 }))
        .map(([of, tests]): Node => ({ ...at, k: "in", of, tests })),
      sub.map((of): Node => ({ ...at, k: "neg", of })),
      fc
        .tuple(fc.constantFrom("not", "count", "sum", "string", "is empty"), sub)
        .map(([fn, a]): Node => ({ ...at, k: "call", fn, args: [a] })),
      fc.tuple(sub, sub).map(([body, arg]): Node => ({
        ...at,
        k: "invoke",
        of: {
          ...at,
          k: "fn",
          params: [{ name: "p" }],
          body: { ...at, k: "list", items: [{ ...at, k: "name", name: "p" }, body] },
        },
        args: [arg],
      })),
    ),
  };
});
const withoutPlaces = (n: Node): unknown =>
  JSON.parse(JSON.stringify(n, (k, v: unknown) => (k === "from" || k === "to" ? undefined : v)));

describe("random formulas", () => {
  it("come to the same compiled and worked out slowly from the tree", () => {
    fc.assert(
      fc.property(tree, fc.constantFrom(...WORLDS), (ast, names) => {
        const fast = evaluate(compile(ast), environment(names, { now: NOW }));
        expect(valueText(fast)).toBe(valueText(slowly(ast, names, NOW)));
      }),
      { seed: 4, numRuns: 6000 },
    );
  });

  it("read back as they were written out", () => {
    let read = 0;
    fc.assert(
      fc.property(tree, (ast) => {
        const text = printFormula(ast);
        const { ast: again, problems } = parseFormula(text, { ...SCOPE, i: NUMBER, p: NUMBER });
        expect(problems).toEqual([]);
        expect(withoutPlaces(again!)).toEqual(withoutPlaces(ast));
        read++;
      }),
      { seed: 5, numRuns: 3000 },
    );
    expect(read).toBeGreaterThanOrEqual(3000);
  });
});

describe("hostile input", () => {
  it("never throws nor hangs, whatever the text", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ unit: "grapheme", maxLength: 60 }),
          fc
            .array(
              fc.constantFrom(
                "[",
                "{",
                "(",
                "for i in ",
                "1..9e9",
                " return ",
                "function(x) x(x)",
                "matches(t, ",
                '"(a+)+$"',
                ")",
                "]",
                '@"',
                '"',
                ".",
                "__proto__",
                "constructor",
                " and ",
                "**",
                "9e6144",
                "partial",
                "item",
              ),
              { maxLength: 20 },
            )
            .map((p) => p.join("")),
        ),
        (text) => {
          const r = evaluateText(
            text,
            { t: "a".repeat(200), constructor: 1 },
            { now: 0, zone: "UTC", fuel: 20_000 },
          );
          expect(r).toHaveProperty("problems");
        },
      ),
      { seed: 7, numRuns: 3000 },
    );
  });
  it.each([
    ["a function that calls itself for ever", "{f: function(x) f(x) + 1, r: f(1)}.r"],
    ["loops in loops", "count(for a in 1..99999, b in 1..99999 return 1)"],
    [
      "a text that doubles",
      '{f: function(s, n) if n = 0 then s else f(s + s, n - 1), r: f("xxxxxxxx", 60)}.r',
    ],
    [
      "a list that doubles",
      "{f: function(l, n) if n = 0 then count(l) else f(concatenate(l, l), n - 1), r: f([1,2,3], 60)}.r",
    ],
    ["a pattern that backtracks", `matches("${"a".repeat(3000)}!", "^(a|a)*(a|a)*(a+)+$")`],
    [
      "a long text joined many times",
      '{t: string join(for i in 1..20000 return "0123456789"), r: string length(string join(for i in 1..50000 return t))}.r',
    ],
    [
      "a long text put in for every letter",
      '{t: string join(for i in 1..15000 return "aaaaaaaaaa"), r: string length(replace(t, "a", t, "q"))}.r',
    ],
    [
      "a list of long texts as text",
      '{t: string join(for i in 1..15000 return "aaaaaaaaaa"), r: string length(string(for i in 1..50000 return t))}.r',
    ],
    [
      "a list that holds itself twice, sixty deep",
      "{f: function(l, n) if n = 0 then l else f([l, l], n - 1), r: f([1], 60)}.r",
    ],
    [
      "two of them compared",
      "{f: function(l, n) if n = 0 then l else f([l, l], n - 1), r: f([1], 60) = f([1], 60)}.r",
    ],
    [
      "a column of one",
      "{f: function(l, n) if n = 0 then l else f([l, l], n - 1), r: count(f([{a: 1}], 60).a)}.r",
    ],
    ["one as text", "{f: function(l, n) if n = 0 then l else f([l, l], n - 1), r: string(f([1], 60))}.r"],
    [
      "one flattened",
      "{f: function(l, n) if n = 0 then l else f([l, l], n - 1), r: count(flatten(f([1], 60)))}.r",
    ],
    [
      "groups of values that hold themselves twice",
      "{f: function(l, n) if n = 0 then l else f({a: l, b: l}, n - 1), r: f({}, 60) = f({}, 60)}.r",
    ],
    [
      "the type of one",
      `{f: function(l, n) if n = 0 then l else f([l, l], n - 1), r: f([1], 40) instance of ${"list<".repeat(41)}number${">".repeat(41)}}.r`,
    ],
    ["a power beyond all numbers", "9 ** 9 ** 9 ** 9"],
    ["sorting by a function without order", "count(sort(for i in 1..20000 return i, function(a, b) true))"],
  ])("%s ends soon", (_, text) => {
    const began = performance.now();
    const r = evaluateText(text, {}, { now: 0, zone: "UTC", fuel: 500_000 });
    expect(performance.now() - began).toBeLessThan(4000);
    if (r.value === null) expect(r.problems.length).toBeGreaterThan(0);
  });
  it("such a list shown as text ends in an ellipsis", () => {
    let list: Value = [1].map((n) => Num.of(n));
    for (let i = 0; i < 60; i++) list = [list, list];
    const shown = valueText(list);
    expect(shown.length).toBeLessThan(2_000_000);
    expect(shown).toContain("…");
  });
  it("deep nesting is refused with a sentence", () => {
    const r = evaluateText("(".repeat(500) + "1" + ")".repeat(500), {}, { now: 0, zone: "UTC" });
    expect(r.problems[0]).toMatchObject({
      code: "too-long",
      message: expect.stringContaining("deep") as string,
    });
  });
});

describe("patterns", () => {
  const piece = fc.constantFrom(
    "a",
    "b",
    "ab",
    ".",
    "[ab]",
    "[^a]",
    "a*",
    "b+",
    "a?",
    "(ab)*",
    "(a|b)",
    "(a|ab)(c|bcd)?",
    "^",
    "$",
    "a{2}",
    "(?:b)",
    "a{1,2}",
    "[a-c]+?",
    "\\.",
  );
  it("find what JavaScript's own find, where both mean the same", () => {
    fc.assert(
      fc.property(
        fc.array(piece, { minLength: 1, maxLength: 5 }),
        fc.stringMatching(/^[abcd.]{0,12}$/),
        (pieces, text) => {
          const pattern = pieces.join("");
          const ours = compileRegex(pattern, "");
          if (typeof ours === "string") return;
          const theirs = new RegExp(pattern, "ud").exec(text);
          const found = ours.exec([...text], 0, { spend: () => undefined });
          expect(found ? found.slice(0, 2) : null).toEqual(
            theirs ? [theirs.indices![0]![0], theirs.indices![0]![1]] : null,
          );
        },
      ),
      { seed: 8, numRuns: 5000 },
    );
  });
});

describe("moments in zones", () => {
  const zones = ["Europe/Dublin", "America/Halifax", "UTC", "Asia/Kathmandu", "Pacific/Apia", "+05:30"];
  it("differ and move as Temporal has them, over clock changes", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2_000_000_000 }),
        fc.integer({ min: 0, max: 2_000_000_000 }),
        fc.constantFrom(...zones),
        fc.constantFrom(...zones),
        fc.integer({ min: -100_000, max: 100_000 }),
        (a, b, za, zb, minutes) => {
          const [x, y] = [
            Temporal.Instant.fromEpochMilliseconds(a * 1000).toZonedDateTimeISO(za),
            Temporal.Instant.fromEpochMilliseconds(b * 1000).toZonedDateTimeISO(zb),
          ];
          const names = new Map([
            ["x", x],
            ["y", y],
          ]);
          const value = (t: string) =>
            evaluate(
              compile(parseFormula(t, { x: { t: "datetime" }, y: { t: "datetime" } }).ast!),
              environment(names, { now: NOW }),
            );
          const gap = value("x - y");
          expect(isDaysTime(gap) && secondsOf(gap).toFixed()).toBe(String(a - b));
          expect(value("x < y")).toBe(a < b);
          const moved = value(`x + @"${minutes < 0 ? "-" : ""}PT${Math.abs(minutes)}M"`);
          expect((moved as Temporal.ZonedDateTime).epochMilliseconds).toBe(
            x.add({ minutes }).epochMilliseconds,
          );
          expect((value('x + @"P1M"') as Temporal.ZonedDateTime).toString()).toBe(
            x.add({ months: 1 }).toString(),
          );
        },
      ),
      { seed: 9, numRuns: 600 },
    );
  });
});
