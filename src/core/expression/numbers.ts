import { Decimal } from "decimal.js";
import { COST, spend } from "./meter";

/**
 * Decimals of 34 significant digits, rounding half to even (DMN 1.5, 10.3.2.3.1: IEEE 754-2008 decimal128).
 * A constructor of our own, so that nobody else's settings change ours.
 */
const Big = Decimal.clone({
  precision: 34,
  rounding: Decimal.ROUND_HALF_EVEN,
  toExpNeg: -40,
  toExpPos: 40,
  maxE: 6144,
  minE: -6176,
});

/** Remainders want all digits of the quotient, and the floor of it. */
const Exact = Big.clone({ precision: 100, modulo: Decimal.ROUND_FLOOR, minE: -9e6, maxE: 9e6 });

const SAFE = Number.MAX_SAFE_INTEGER;
const MAX_SCALE = 15;
const POW = Array.from({ length: MAX_SCALE + 1 }, (_, i) => 10 ** i);
const WORD = 1e7;

/** Never the machine's minus zero, which would be told from zero. */
function signed(i: number, negative: boolean): number {
  if (i === 0) return 0;
  return negative ? -i : i;
}

export type Rounding = "up" | "down" | "half up" | "half down" | "half even" | "floor" | "ceiling";
const MODES: Record<Rounding, Decimal.Rounding> = {
  up: Decimal.ROUND_UP,
  down: Decimal.ROUND_DOWN,
  "half up": Decimal.ROUND_HALF_UP,
  "half down": Decimal.ROUND_HALF_DOWN,
  "half even": Decimal.ROUND_HALF_EVEN,
  floor: Decimal.ROUND_FLOOR,
  ceiling: Decimal.ROUND_CEIL,
};

/**
 * An exact decimal. Most numbers of an office fit a whole number of cents or thousandths in a double, where
 * arithmetic is exact and cheap; what does not fit is a Decimal. Both give the same results.
 */
export class Num {
  private constructor(
    /** With `s`: the value is i / 10^s, while `big` is null. */
    private readonly i: number,
    private readonly s: number,
    private readonly big: Decimal | null,
  ) {}

  static of(v: string | number): Num {
    if (typeof v === "number" && Number.isSafeInteger(v)) return new Num(v === 0 ? 0 : v, 0, null);
    const text = String(v);
    const m = text.length <= 16 ? /^(-?)(\d+)(?:\.(\d+))?$/.exec(text) : null;
    if (m) {
      const digits = m[2]! + (m[3] ?? "");
      if (digits.length <= MAX_SCALE) {
        return new Num(signed(Number(digits), m[1] === "-"), m[3]?.length ?? 0, null);
      }
    }
    return Num.from(new Big(text).toSignificantDigits(34));
  }

  private static from(given: Decimal): Num {
    const d = given.e < -6142 ? given.toDecimalPlaces(6176, Decimal.ROUND_HALF_EVEN) : given;
    const words = d.d;
    if (words && words.length <= 2) {
      const w = words.length === 1 ? words[0]! : words[0]! * WORD + words[1]!;
      const exponent = 7 * (Math.floor(d.e / 7) - (words.length - 1));
      const up = exponent > MAX_SCALE ? Infinity : (POW[exponent] ?? 1);
      const i = w * up;
      if (i <= SAFE && -exponent <= MAX_SCALE)
        return new Num(signed(i, d.s < 0), exponent < 0 ? -exponent : 0, null);
    }
    return new Num(0, 0, d);
  }

  private get decimal(): Decimal {
    return this.big ?? (this.s === 0 ? new Big(this.i) : new Big(this.i).div(POW[this.s]!));
  }

  plus(o: Num): Num {
    if (this.big === null && o.big === null) {
      const d = this.s - o.s;
      // Both brought to the finer scale. Both parts and the sum must be safe: two unsafe numbers can have a difference
      // that looks safe.
      const mine = d < 0 ? this.i * POW[-d]! : this.i;
      const other = d > 0 ? o.i * POW[d]! : o.i;
      const r = mine + other;
      if (r <= SAFE && r >= -SAFE && Math.abs(mine) <= SAFE && Math.abs(other) <= SAFE)
        return new Num(r === 0 ? 0 : r, d > 0 ? this.s : o.s, null);
    }
    spend(COST.decimal);
    return Num.from(this.decimal.plus(o.decimal));
  }
  minus(o: Num): Num {
    return this.plus(o.negated());
  }
  times(o: Num): Num {
    if (this.big === null && o.big === null) {
      const r = this.i * o.i;
      if (r <= SAFE && r >= -SAFE && this.s + o.s <= MAX_SCALE)
        return new Num(r === 0 ? 0 : r, this.s + o.s, null);
    }
    spend(COST.decimal);
    return Num.from(this.decimal.times(o.decimal));
  }
  /** Not finite when `o` is zero. */
  div(o: Num): Num {
    if (this.big === null && o.big === null && o.i !== 0 && this.s >= o.s) {
      const r = this.i / o.i;
      if (Number.isInteger(r)) return new Num(r === 0 ? 0 : r, this.s - o.s, null);
    }
    return Num.from(this.decimal.div(o.decimal));
  }
  /** What is left of a whole number of `o`, with the sign of `o`, exact before it is rounded. Not finite when `o` is zero. */
  modulo(o: Num): Num {
    if (this.big === null && o.big === null && this.s === o.s && o.i !== 0) {
      const r = this.i % o.i;
      if (r === 0) return new Num(0, this.s, null);
      return new Num(r < 0 === o.i < 0 ? r : r + o.i, this.s, null);
    }
    return Num.from(new Exact(this.decimal).modulo(new Exact(o.decimal)));
  }
  /** The power of ten of its first digit. */
  get magnitude(): number {
    return this.decimal.e;
  }
  pow(o: Num): Num {
    return Num.from(this.decimal.pow(o.decimal));
  }
  negated(): Num {
    return this.big === null
      ? new Num(this.i === 0 ? 0 : -this.i, this.s, null)
      : new Num(0, 0, this.big.negated());
  }
  abs(): Num {
    return this.isNegative() ? this.negated() : this;
  }
  sqrt(): Num {
    return Num.from(this.decimal.sqrt());
  }
  ln(): Num {
    return Num.from(this.decimal.ln());
  }
  exp(): Num {
    return Num.from(this.decimal.exp());
  }
  /** Rounded to `places` decimals; negative places round before the point. */
  round(places: number, how: Rounding): Num {
    if (this.big === null && places >= this.s) return this;
    const d = this.decimal;
    if (places >= 0) return Num.from(d.toDecimalPlaces(Math.min(places, 7000), MODES[how]));
    const unit = new Big(10).pow(Math.min(-places, 7000));
    return Num.from(d.div(unit).toDecimalPlaces(0, MODES[how]).times(unit));
  }

  comparedTo(o: Num): number {
    if (this.big === null && o.big === null) {
      const d = this.s - o.s;
      if (d === 0) {
        if (this.i < o.i) return -1;
        if (this.i > o.i) return 1;
        return 0;
      }
      const a = d > 0 ? this.i : this.i * POW[-d]!;
      const b = d > 0 ? o.i * POW[d]! : o.i;
      if (Math.abs(a) <= SAFE && Math.abs(b) <= SAFE) {
        if (a < b) return -1;
        if (a > b) return 1;
        return 0;
      }
    }
    return this.decimal.comparedTo(o.decimal);
  }
  isZero(): boolean {
    return this.big === null ? this.i === 0 : this.big.isZero();
  }
  isNegative(): boolean {
    return this.big === null ? this.i < 0 : this.big.isNegative() && !this.big.isZero();
  }
  isInteger(): boolean {
    return this.big === null ? this.s === 0 || this.i % POW[this.s]! === 0 : this.big.isInteger();
  }
  /** How many decimals are needed to write it. */
  get decimals(): number {
    return this.toFixed().split(".")[1]?.length ?? 0;
  }
  isFinite(): boolean {
    return this.big === null || this.big.isFinite();
  }
  /** The nearest double. */
  toNumber(): number {
    return this.big === null ? this.i / POW[this.s]! : this.big.toNumber();
  }
  /** Plain digits without exponent and without trailing zeros. */
  toFixed(places?: number): string {
    if (places !== undefined) return this.decimal.toFixed(places, Decimal.ROUND_HALF_UP);
    if (this.big !== null) return this.big.isZero() ? "0" : this.big.toFixed();
    if (this.s === 0) return String(this.i);
    const digits = String(Math.abs(this.i)).padStart(this.s + 1, "0");
    const fraction = digits.slice(-this.s).replace(/0+$/, "");
    return `${this.i < 0 ? "-" : ""}${digits.slice(0, -this.s)}${fraction && `.${fraction}`}`;
  }
  toString(): string {
    return this.toFixed();
  }
  toJSON(): string {
    return this.toFixed();
  }
}

export const isNum = (v: unknown): v is Num => v instanceof Num;

const NUMBER_TEXT = /^\s*-?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d{1,4})?\s*$/;

/** Reads a number as stored or typed ("612.40"); null when the text is not one, or is beyond what 34-digit decimals hold. */
export function toNum(text: string | number): Num | null {
  if (typeof text === "number") return Number.isFinite(text) ? Num.of(text) : null;
  if (!NUMBER_TEXT.test(text)) return null;
  const n = Num.of(text.trim());
  return n.isFinite() ? n : null;
}

/** A result, or nothing where it is beyond all numbers. */
export const finite = (n: Num): Num | null => (n.isFinite() ? n : null);

/** Division as DMN has it: by zero gives nothing. */
export const divide = (a: Num, b: Num): Num | null => (b.isZero() ? null : finite(a.div(b)));

/** Half-up to a number of decimals: how money is shown and how worked-out money is kept. */
export const roundMoney = (n: Num, places = 2): Num => n.round(places, "half up");
