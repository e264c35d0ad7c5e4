import fc from "fast-check";
import { checkFormula, compile, evaluate } from ".";
import { env, scope, shown } from "./testing/order";
import { renamedScope, renamedText } from "./testing/renaming";

it("agrees with plain arithmetic on random whole numbers", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -9999, max: 9999 }),
      fc.integer({ min: -9999, max: 9999 }),
      fc.integer({ min: -99, max: 99 }),
      (a, b, c) => {
        expect(shown(`(${a}) + (${b}) * (${c})`)).toBe(String(a + b * c === 0 ? 0 : a + b * c));
      },
    ),
    { seed: 7, numRuns: 300 },
  );
});

it("never throws, whatever the text", () => {
  const bits = fc.constantFrom(
    "Total",
    " ",
    "+",
    "(",
    ")",
    "[",
    "]",
    "1",
    '"',
    "and",
    "if",
    "then",
    "else",
    "Lines",
    ".",
    "..",
    "{",
    ":",
    "for",
    "in",
    "return",
    ">",
    "@",
    "\\",
    "😀",
    "Quantity",
  );
  fc.assert(
    fc.property(fc.array(bits, { maxLength: 25 }), (parts) => {
      const text = parts.join("");
      const { ast } = checkFormula(text, scope);
      if (ast) evaluate(compile(ast), env());
    }),
    { seed: 11, numRuns: 3000 },
  );
});

it("renaming there and back gives the same text", () => {
  fc.assert(
    fc.property(
      fc.constantFrom("Total > 1", "Total+Total", "sum([Total, Count])", "if Urgent then Total else -Total"),
      (t) => {
        const there = renamedText(t, scope, ["Total"], "Big sum");
        const renamed = renamedScope(scope, ["Total"], "Big sum");
        expect(renamedText(there, renamed, ["Big sum"], "Total")).toBe(t);
      },
    ),
    { seed: 3, numRuns: 40 },
  );
});
