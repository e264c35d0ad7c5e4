import { Decimal } from "decimal.js";

/**
 * Decimals of 34 significant digits, rounding half to even (DMN 1.5, 10.3.2.3.1: IEEE 754-2008 decimal128).
 * A constructor of our own, so that nobody else's settings change ours.
 */
export const Num = Decimal.clone({ precision: 34, rounding: Decimal.ROUND_HALF_EVEN, toExpNeg: -40, toExpPos: 40 });
export type Num = Decimal;

export const isNum = (v: unknown): v is Num => v instanceof Num;

const NUMBER_TEXT = /^\s*-?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d{1,4})?\s*$/;

/** Reads a number as stored or typed ("612.40"); null when the text is not one. */
export function toNum(text: string | number): Num | null {
  if (typeof text === "number") return Number.isFinite(text) ? new Num(text) : null;
  return NUMBER_TEXT.test(text) ? new Num(text.trim()) : null;
}

/** Division as DMN has it: by zero gives nothing. */
export const divide = (a: Num, b: Num): Num | null => (b.isZero() ? null : a.div(b));

/** Half-up to a number of decimals: how money is shown and how worked-out money is kept. */
export const roundMoney = (n: Num, places = 2): Num => n.toDecimalPlaces(places, Decimal.ROUND_HALF_UP);
