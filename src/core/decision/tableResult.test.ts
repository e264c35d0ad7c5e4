import { Num, type Value } from "../expression";
import { tableResult, type DecisionTable } from ".";

/** Rules that hold or do not, with what their outputs come to, in order. */
const run = (
  of: Pick<DecisionTable, "hits"> & Partial<DecisionTable>,
  rules: readonly (readonly [boolean, ...Value[]])[],
  otherwise: readonly Value[] = [],
) => {
  const outputs = of.outputs ?? [
    { id: "o", name: "Way", kind: "text" as const, values: ["high", "mid", "low"] },
  ];
  const looked: number[] = [];
  const result = tableResult(
    {
      inputs: [{ id: "i", formula: "Amount" }],
      outputs,
      rules: rules.map((_, i) => ({ id: `r${i}`, when: [], then: [] })),
      ...of,
    },
    {
      passes: (r) => (looked.push(r), rules[r]![0]),
      output: (r, o) => (r === "otherwise" ? otherwise[o] : (rules[r]![o + 1] as Value)) ?? null,
    },
  );
  return { ...result, looked };
};
const plain = (v: Value): unknown => {
  if (v instanceof Num) return v.toString();
  if (Array.isArray(v)) return (v as readonly Value[]).map(plain);
  return v instanceof Map ? Object.fromEntries([...v].map(([k, x]) => [k, plain(x as Value)])) : v;
};
const told = (r: ReturnType<typeof run>) =>
  "failure" in r ? r.failure : { rules: r.rules, value: plain(r.value) };

it("only one may hold: two are a failure that names them, whatever they come to", () => {
  expect(
    told(
      run({ hits: "unique" }, [
        [false, "low"],
        [true, "mid"],
      ]),
    ),
  ).toEqual({
    rules: [2],
    value: { Way: "mid" },
  });
  expect(
    told(
      run({ hits: "unique" }, [
        [true, "mid"],
        [false, "x"],
        [true, "mid"],
      ]),
    ),
  ).toEqual({
    code: "several-rules",
    data: { first: 1, second: 3 },
  });
});

it("several that agree count as one, and any that differs is a failure, also against nothing", () => {
  expect(
    told(
      run({ hits: "any" }, [
        [true, "mid"],
        [true, "mid"],
      ]),
    ),
  ).toEqual({ rules: [1, 2], value: { Way: "mid" } });
  const differ = { code: "rules-differ", data: { first: 1, second: 3, output: "Way" } };
  expect(
    told(
      run({ hits: "any" }, [
        [true, "mid"],
        [true, "mid"],
        [true, "low"],
      ]),
    ),
  ).toEqual(differ);
  expect(
    told(
      run({ hits: "any" }, [
        [true, "mid"],
        [false, "low"],
        [true, null],
      ]),
    ),
  ).toEqual(differ);
  expect(
    told(
      run({ hits: "any" }, [
        [true, null],
        [true, null],
      ]),
    ),
  ).toEqual({ rules: [1, 2], value: { Way: null } });
  expect(
    told(
      run({ hits: "any" }, [
        [true, Num.of("1.0")],
        [true, Num.of("1")],
      ]),
    ),
  ).toMatchObject({ rules: [1, 2] });
});

it("the first that holds is taken, and those behind it are not looked at", () => {
  const r = run({ hits: "first" }, [
    [false, "low"],
    [true, "mid"],
    [true, "high"],
  ]);
  expect(told(r)).toEqual({ rules: [2], value: { Way: "mid" } });
  expect(r.looked).toEqual([0, 1]);
});

it("ranks go by the order of values, output by output; of those alike the first counts", () => {
  expect(
    told(
      run({ hits: "priority" }, [
        [true, "low"],
        [true, "high"],
        [true, "mid"],
      ]),
    ),
  ).toEqual({
    rules: [2],
    value: { Way: "high" },
  });
  const two = {
    outputs: [
      { id: "a", name: "A", kind: "text" as const, values: ["x", "y"] },
      { id: "n", name: "N", kind: "number" as const },
      { id: "b", name: "B", kind: "text" as const, values: ["x", "y"] },
    ],
  };
  const rows: [boolean, ...Value[]][] = [
    [true, "y", Num.of(1), "x"],
    [true, "x", Num.of(2), "y"],
    [true, "x", Num.of(3), "x"],
    [true, "x", Num.of(4), "x"],
  ];
  expect(told(run({ hits: "priority", ...two }, rows))).toMatchObject({ rules: [3], value: { N: "3" } });
  expect(told(run({ hits: "output order", ...two }, rows))).toMatchObject({ rules: [3, 4, 2, 1] });
  expect(
    told(
      run({ hits: "priority" }, [
        [true, "low"],
        [true, "none of them"],
      ]),
    ),
  ).toEqual({
    code: "no-rank",
    data: { rule: 2, output: "Way", value: "none of them" },
  });
});

it("all that hold come to a list in their order, or to a number", () => {
  expect(
    told(
      run({ hits: "rule order" }, [
        [true, "low"],
        [false, "mid"],
        [true, "high"],
      ]),
    ),
  ).toEqual({
    rules: [1, 3],
    value: [{ Way: "low" }, { Way: "high" }],
  });
  const n: [boolean, ...Value[]][] = [
    [true, Num.of("0.1")],
    [false, Num.of(9)],
    [true, Num.of("0.2")],
  ];
  const fees = (gathers: DecisionTable["gathers"]) =>
    told(run({ hits: "collect", ...(gathers ? { gathers } : {}) }, n));
  expect(fees(undefined)).toMatchObject({ value: [{ Way: "0.1" }, { Way: "0.2" }] });
  expect(fees("sum")).toMatchObject({ value: { Way: "0.3" } });
  expect(fees("min")).toMatchObject({ value: { Way: "0.1" } });
  expect(fees("max")).toMatchObject({ value: { Way: "0.2" } });
  expect(fees("count")).toMatchObject({ value: { Way: "2" } });
  // One that is empty is not left out of a sum without a word.
  expect(
    told(
      run({ hits: "collect", gathers: "sum" }, [
        [true, Num.of(1)],
        [true, null],
      ]),
    ),
  ).toEqual({
    code: "no-number",
    data: { rule: 2, output: "Way" },
  });
  expect(told(run({ hits: "collect", gathers: "max" }, [[true, "5"]]))).toMatchObject({ code: "no-number" });
});

it("where none holds it comes to what is said for that, to nothing, or to a failure", () => {
  const none: [boolean, ...Value[]][] = [[false, "low"]];
  expect(told(run({ hits: "unique" }, none))).toEqual({ code: "no-rule", data: {} });
  expect(told(run({ hits: "unique", none: "empty" }, none))).toEqual({ rules: [], value: null });
  const otherwise = { otherwise: [{ output: "o", value: '"mid"' }] };
  expect(told(run({ hits: "first", ...otherwise }, none, ["mid"]))).toEqual({
    rules: [],
    value: { Way: "mid" },
  });
  expect(told(run({ hits: "rule order", ...otherwise }, none, ["mid"]))).toEqual({
    rules: [],
    value: [{ Way: "mid" }],
  });
  expect(told(run({ hits: "collect" }, none))).toEqual({ rules: [], value: [] });
  expect(told(run({ hits: "collect", gathers: "count" }, none))).toEqual({ rules: [], value: { Way: "0" } });
  expect(told(run({ hits: "collect", gathers: "sum" }, none))).toEqual({ code: "no-rule", data: {} });
});
