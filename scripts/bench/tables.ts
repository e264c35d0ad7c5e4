import { proveTable, type HitPolicy, type ProvenInput, type TableProof } from "../../src/core/decision";
import { ANY, INPUT, NUMBER, parseFormula, type Node } from "../../src/core/expression";

/** What a proof of a table costs. @returns by table, its milliseconds and what it came to */
export function tables(time: (f: () => void) => number): { table: string; ms: number[]; came: string }[] {
  const trees = new Map<string, Node>();
  const tree = (text: string): Node =>
    trees.get(text) ?? trees.set(text, parseFormula(text, { [INPUT]: ANY }).ast!).get(text)!;
  const one = (table: string, hits: HitPolicy, inputs: ProvenInput[]) => {
    const rules = inputs[0]!.tests.length;
    let proof: TableProof | undefined;
    const ms = [0, 1, 2, 3, 4].map(() =>
      time(() => {
        proof = proveTable(
          hits,
          rules,
          inputs,
          () => false,
          (a, b) => a < b,
        );
      }),
    );
    const { gap, partly, overlapping, never } = proof!;
    const came = [
      typeof gap === "string" ? gap : "a gap",
      ...(partly ? ["partly"] : []),
      `${overlapping.sure} pairs, ${never.length} never`,
    ].join(", ");
    return { table, ms, came };
  };
  return [
    one("200 rules of 6 inputs, only one may hold", "unique", mixed(200, 6, tree)),
    one("200 rules of 6 inputs, the first that holds", "first", mixed(200, 6, tree)),
    one("a grid of 1,000 rules, complete", "unique", grid(tree)),
    one("1,000 rules of 20 inputs, the first that holds", "first", mixed(1000, 20, tree)),
  ];
}

/** Ranges of numbers and texts, a fifth of the tests left open. */
function mixed(rules: number, inputs: number, tree: (text: string) => Node): ProvenInput[] {
  return Array.from({ length: inputs }, (_, i): ProvenInput => ({
    domain: { type: i % 3 === 2 ? { t: "text", options: ["a", "b", "c", "d"] } : NUMBER },
    needed: true,
    tests: Array.from({ length: rules }, (_r, r): Node | "any" => {
      const n = (r * 7919 + i * 31 + Math.floor(r / 97) * 13) % 101;
      if (n < 20) return "any";
      return i % 3 === 2 ? tree(`"${"abcd"[n % 4]!}"`) : tree(`[${n * 10}..${n * 10 + 50})`);
    }),
  }));
}

/** Ten stretches of each of three numbers, each of them once. */
function grid(tree: (text: string) => Node): ProvenInput[] {
  const stretch = (d: number) => {
    if (d === 0) return "< 1";
    return d === 9 ? ">= 9" : `[${d}..${d + 1})`;
  };
  return [1, 10, 100].map((each) => ({
    domain: { type: NUMBER },
    needed: true,
    tests: Array.from({ length: 1000 }, (_, r) => tree(stretch(Math.floor(r / each) % 10))),
  }));
}
