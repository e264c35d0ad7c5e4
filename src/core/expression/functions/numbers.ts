import { COST } from "../meter";
import { DaysTime, YearsMonths } from "../durations";
import { finite, Num, type Num as N, type Rounding } from "../numbers";
import { overload, type Overload } from "./define";

const MAX_SCALE = 6176;
const TWO = Num.of(2);
const rounding = (how: Rounding, needsScale = false): Overload =>
  overload(
    needsScale ? "n: number, scale: number -> number" : "n: number, scale?: number -> number",
    ([n, scale]: [N, N | undefined], at) => {
      const places = scale?.toNumber() ?? 0;
      if (!Number.isInteger(places) || !(places >= -6111 && places <= MAX_SCALE))
        return at.say("The number of decimals is a whole number from -6111 to 6176.");
      return finite(n.round(places, how));
    },
  );

export const NUMBERS: Record<string, Overload[]> = {
  decimal: [rounding("half even", true)],
  floor: [rounding("floor")],
  ceiling: [rounding("ceiling")],
  "round up": [rounding("up")],
  "round down": [rounding("down")],
  "round half up": [rounding("half up")],
  "round half down": [rounding("half down")],
  // Ours: what `decimal` does, under a name that says it.
  "round half even": [rounding("half even")],
  abs: [
    overload("n: number -> number", ([n]: [N]) => n.abs()),
    overload("n: days -> days", ([d]: [DaysTime]) => (d.ns < 0n ? new DaysTime(-d.ns) : d)),
    overload("n: months -> months", ([d]: [YearsMonths]) => new YearsMonths(Math.abs(d.months))),
  ],
  modulo: [
    overload("dividend: number, divisor: number -> number", ([a, b]: [N, N], at) => {
      // DMN 1.5, table 76: dividend - divisor * floor(dividend / divisor), so the sign is the divisor's.
      if (b.isZero()) return at.say("Nothing can be divided by zero.");
      at.spend(COST.division + Math.abs(a.magnitude - b.magnitude) * COST.digit);
      return finite(a.modulo(b));
    }),
  ],
  sqrt: [
    overload("number: number -> number", ([n]: [N], at) => {
      at.spend(COST.root);
      return n.isNegative() ? at.say("A negative number has no square root.") : n.sqrt();
    }),
  ],
  log: [
    overload("number: number -> number", ([n]: [N], at) => {
      at.spend(COST.exponential);
      return n.isNegative() || n.isZero() ? at.say("Only numbers above zero have a logarithm.") : n.ln();
    }),
  ],
  exp: [
    overload("number: number -> number", ([n]: [N], at) => {
      at.spend(COST.exponential);
      return finite(n.exp());
    }),
  ],
  odd: [overload("number: number -> yesno", ([n]: [N]) => (n.isInteger() ? !n.modulo(TWO).isZero() : false))],
  even: [overload("number: number -> yesno", ([n]: [N]) => (n.isInteger() ? n.modulo(TWO).isZero() : false))],
};
