import { countOf, firstInBoth, meet, type Bits } from "./bits";
import type { Allowance, Dimension } from "./gap";

/** Two rules that hold at once, with the parts at which they do; rules from 0. */
export interface Overlap {
  first: number;
  second: number;
  at: number[];
}
export interface Overlaps {
  /** The first few. */
  found: Overlap[];
  count: number;
  /** There was no time to look at all of them. */
  partly: boolean;
}

const NAMED = 20;

/**
 * Pairs of rules that hold for the same values.
 * @param rules in order
 * @param counts whether a pair is one of those looked for
 */
export function findOverlaps(
  dims: readonly Dimension[],
  rules: readonly number[],
  allowance: Allowance,
  counts: (first: number, second: number) => boolean = () => true,
): Overlaps {
  const out: Overlaps = { found: [], count: 0, partly: false };
  // The input that tells most rules apart is asked first: most pairs end there.
  const order = dims
    .map((d, i) => ({ i, held: rules.reduce((n, r) => n + countOf(d.byRule[r]!) / d.parts, 0) }))
    .sort((a, b) => a.held - b.held)
    .map(({ i }) => dims[i]!.byRule);
  const hold = (a: number, b: number) => order.every((of: readonly Bits[]) => meet(of[a]!, of[b]!));
  for (const [i, second] of rules.entries()) {
    if ((allowance.left -= i) < 0) return { ...out, partly: true };
    for (let k = 0; k < i; k++) {
      const first = rules[k]!;
      if (!hold(first, second) || !counts(first, second)) continue;
      if (++out.count > NAMED) continue;
      const at = dims.map((d) => firstInBoth(d.byRule[first]!, d.byRule[second]!));
      out.found.push({ first, second, at });
    }
  }
  return out;
}
