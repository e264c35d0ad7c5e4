import fc from "fast-check";
import { evaluate } from "feelin";
import { evaluateText } from "./evaluateText";

/**
 * Another implementation, for differences nobody thought of. It works with doubles and reads some things otherwise;
 * only what both should agree on is compared: whole numbers of moderate size, yes and no, lists. (It also puts the ends
 * of "between" in order, which the standard does not: 10.3.2.6.)
 */
const theirs = (text: string, data: Record<string, unknown> = {}): unknown => {
  try {
    return (evaluate(text, data) as { value: unknown }).value;
  } catch {
    return "cannot";
  }
};
const ours = (text: string, data: Record<string, unknown> = {}) =>
  evaluateText(text, data, { now: "2026-03-03T10:00:00Z", zone: "UTC" }).value;

describe("beside another implementation", () => {
  const { num, cond, list } = fc.letrec<{ num: string; cond: string; list: string }>((tie) => {
    const [num, cond, list] = [tie("num"), tie("cond"), tie("list")];
    return {
      num: fc.oneof(
        { maxDepth: 3 },
        fc.integer({ min: 0, max: 20 }).map(String),
        fc.constantFrom("n", "m"),
        fc.tuple(num, fc.constantFrom("+", "-", "*"), num).map(([a, o, b]) => `(${a} ${o} ${b})`),
        fc.tuple(cond, num, num).map(([c, a, b]) => `(if ${c} then ${a} else ${b})`),
        list.map((l) => `count(${l})`),
        list.map((l) => `sum(concatenate([0], ${l}))`),
        list.map((l) => `max(concatenate([0], ${l}))`),
      ),
      cond: fc.oneof(
        { maxDepth: 3 },
        fc.constantFrom("true", "false", "y"),
        fc
          .tuple(num, fc.constantFrom("=", "!=", "<", "<=", ">", ">="), num)
          .map(([a, o, b]) => `(${a} ${o} ${b})`),
        fc.tuple(cond, fc.constantFrom("and", "or"), cond).map(([a, o, b]) => `(${a} ${o} ${b})`),
        num.map((a) => `(${a} between 2 and 9)`),
        fc.tuple(num, list).map(([a, l]) => `list contains(${l}, ${a})`),
        fc.tuple(num, list).map(([a, l]) => `(some x in ${l} satisfies x > ${a})`),
        fc.tuple(num, list).map(([a, l]) => `(every x in ${l} satisfies x > ${a})`),
      ),
      list: fc.oneof(
        { maxDepth: 2 },
        fc.array(fc.integer({ min: 0, max: 9 }), { maxLength: 4 }).map((l) => `[${l.join(", ")}]`),
        fc.constant("ns"),
        fc.tuple(list, num).map(([l, n]) => `(for x in ${l} return x + ${n})`),
        list.map((l) => `reverse(${l})`),
        list.map((l) => `distinct values(${l})`),
        fc.tuple(list, fc.integer({ min: 0, max: 9 })).map(([l, n]) => `${l}[item > ${n}]`),
      ),
    };
  });
  it("random formulas over whole numbers come to the same", () => {
    let compared = 0;
    fc.assert(
      fc.property(fc.oneof(num, cond, list), (text) => {
        const data = { n: 7, m: -3, y: true, ns: [4, 1, 4, 9] };
        const value = ours(text, data);
        // Beyond what a double holds exactly the other one must differ.
        if (JSON.stringify(value)?.match(/\d{12,}/)) return;
        compared++;
        expect({ text, value }).toEqual({ text, value: theirs(text, data) });
      }),
      { seed: 41, numRuns: 1500 },
    );
    expect(compared).toBeGreaterThan(1400);
  });
});
