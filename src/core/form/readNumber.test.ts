import fc from "fast-check";
import { readNumber, readsBothWays } from ".";

it.each<[string, string | null]>([
  ["1250.50", "1250.50"],
  ["1,250.50", "1250.50"],
  ["1.250,50", "1250.50"],
  ["1 250,50", "1250.50"],
  ["1\u202f250.50", "1250.50"],
  ["1'250.50", "1250.50"],
  ["1,234,567", "1234567"],
  ["1.234.567", "1234567"],
  ["1,234,567.8", "1234567.8"],
  ["1250,5", "1250.5"],
  ["0,250", "0.250"],
  ["1.250", "1.250"],
  ["-3", "-3"],
  ["+3", "3"],
  // Not to be told, or no number.
  ["1,250", null],
  ["12,34,567", null],
  ["1.234,567.8", null],
  ["1,23.4", null],
  ["1,", null],
  [".", null],
  ["1e5", null],
  ["", null],
  ["EUR 5", null],
])("%s is %s", (text, want) => expect(readNumber(text)).toBe(want));

it("reads back whatever is written in either way", () => {
  fc.assert(
    fc.property(fc.bigInt({ min: 0n, max: 10n ** 15n }), fc.integer({ min: 0, max: 99 }), (whole, cents) => {
      const digits = String(whole);
      const part = String(cents).padStart(2, "0");
      const by = (sign: string) => digits.replace(/\B(?=(\d{3})+$)/g, sign);
      for (const [group, decimal] of [
        [",", "."],
        [".", ","],
        [" ", "."],
        ["\u202f", ","],
      ] as const)
        expect(readNumber(`${by(group)}${decimal}${part}`)).toBe(`${digits}.${part}`);
    }),
  );
});
it("asks only where both readings are numbers", () => {
  expect(["1,250", "-12,000", "999,999"].map(readsBothWays)).toEqual([true, true, true]);
  expect(["1.250", "0,250", "1,25", "1,2500", "1,250,000", "x,250"].map(readsBothWays)).toEqual(
    Array(6).fill(false),
  );
});
