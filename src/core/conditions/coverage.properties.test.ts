import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import {
  compile,
  DATE,
  environment,
  evaluate,
  Num,
  NUMBER,
  parseFormula,
  YESNO,
  type Node,
  type Scope,
  type Value,
} from "../expression";
import { coverage } from "./coverage";
import type { Domain } from "./samples";

const NOW = Temporal.ZonedDateTime.from("2026-02-27T09:30[Europe/Dublin]");
const DAYS = Array.from({ length: 12 }, (_, i) => Temporal.PlainDate.from("2026-01-01").add({ days: i }));
/** Every value there is, as near as the written ones can tell them apart. */
const ALL: Record<string, { domain: Domain; values: Value[]; written: string[] }> = {
  n: {
    domain: { type: NUMBER },
    values: Array.from({ length: 41 }, (_, i) => Num.of(String(i / 4 - 2))),
    written: ["0", "1", "2", "3", "5", "-1"],
  },
  cents: {
    domain: { type: NUMBER, grain: "0.01", min: Num.of(0), max: Num.of("0.06") },
    values: Array.from({ length: 7 }, (_, i) => Num.of(String(i / 100))),
    written: ["0.01", "0.02", "0.03", "0.05", "0"],
  },
  day: {
    domain: { type: DATE },
    values: DAYS,
    written: DAYS.slice(2, 8).map((d) => `date("${d.toString()}")`),
  },
  choice: {
    domain: { type: { t: "text", options: ["a", "b", "c"] } },
    values: ["a", "b", "c"],
    written: ['"a"', '"b"', '"c"'],
  },
  yes: { domain: { type: YESNO }, values: [true, false], written: ["true", "false"] },
};
const SCOPE: Scope = Object.fromEntries(Object.entries(ALL).map(([k, v]) => [k, v.domain.type]));

const condition = (name: string): fc.Arbitrary<string> => {
  const { written, domain } = ALL[name]!;
  const w = fc.constantFrom(...written);
  const ordered = domain.type.t === "number" || domain.type.t === "date";
  const cmp = fc.constantFrom("=", "!=", ...(ordered ? ["<", "<=", ">", ">="] : []));
  return fc.letrec<{ c: string }>((tie) => ({
    c: fc.oneof(
      { depthSize: "small", withCrossShrink: true },
      fc.tuple(cmp, w).map(([o, x]) => `${name} ${o} ${x}`),
      fc.tuple(cmp, w).map(([o, x]) => `${x} ${o} ${name}`),
      fc.constant(name === "yes" ? "yes" : `is empty(${name})`),
      ...(ordered
        ? [
            fc.tuple(w, w).map(([a, b]) => `${name} between ${a} and ${b}`),
            fc.tuple(w, w).map(([a, b]) => `${name} in (${a}, > ${b})`),
          ]
        : [fc.tuple(w, w).map(([a, b]) => `${name} in (${a}, ${b})`)]),
      fc.tuple(tie("c"), fc.constantFrom("and", "or"), tie("c")).map(([a, o, b]) => `(${a} ${o} ${b})`),
      tie("c").map((c) => `not(${c})`),
    ),
  })).c;
};

it("finds ways never taken and gaps just where trying every value does", () => {
  const seen = { alone: 0, behind: 0, gaps: 0, covered: 0 };
  fc.assert(
    fc.property(
      fc
        .constantFrom(...Object.keys(ALL))
        .chain((name) =>
          fc.tuple(fc.constant(name), fc.array(condition(name), { minLength: 1, maxLength: 4 })),
        ),
      ([name, texts]) => {
        const { values, domain } = ALL[name]!;
        const asts = texts.map((t): Node => parseFormula(t, SCOPE).ast!);
        const holds = (n: Node, v: Value) =>
          evaluate(compile(n), environment(new Map([[name, v]]), { now: NOW })) === true;
        const got = coverage(asts, () => domain);
        const every = [...values, null];
        const never = asts.map((n, i) => {
          const held = every.filter((v) => holds(n, v));
          if (held.length === 0) return "alone";
          return held.every((v) => asts.slice(0, i).some((b) => holds(b, v))) ? "behind" : null;
        });
        expect({ texts, never: got.never }).toEqual({ texts, never });
        const open = values.filter((v) => !asts.some((n) => holds(n, v)));
        expect({ texts, gap: got.gap === null }).toEqual({ texts, gap: open.length === 0 });
        if (got.gap !== null && got.gap !== undefined)
          expect(asts.some((n) => holds(n, got.gap!))).toBe(false);
        expect(got.emptyFalls).toBe(!asts.some((n) => holds(n, null)));
        for (const n of never) if (n) seen[n]++;
        seen[open.length === 0 ? "covered" : "gaps"]++;
      },
    ),
    { seed: 41, numRuns: 1000 },
  );
  expect(Math.min(...Object.values(seen))).toBeGreaterThan(60);
});
