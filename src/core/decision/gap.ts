import { allBits, both, countOf, has, isNone, keyOf, meet, membersOf, noBits, put, type Bits } from "./bits";

/** One input with all rules over its parts. */
export interface Dimension {
  /** How many parts its values have. */
  parts: number;
  /** By rule: the parts for which it holds. */
  byRule: readonly Bits[];
  /** By part: the rules that hold for it. */
  byPart: readonly Bits[];
}

/** How much may still be looked at; what takes more is told as not proved. */
export interface Allowance {
  left: number;
}
/** The parts, one of each input, at which no rule holds. */
export type Gap = { at: number[] } | "none" | "not proved";

/** @param byRule by rule the parts for which it holds */
export function dimension(parts: number, byRule: readonly Bits[]): Dimension {
  const byPart = Array.from({ length: parts }, (_, part) => {
    const rules = noBits(byRule.length);
    byRule.forEach((held, r) => has(held, part) && put(rules, r));
    return rules;
  });
  return { parts, byRule, byPart };
}

/**
 * Values for which none of some rules holds, looked for input by input: with each part the rules that hold for it go on,
 * and what is left of them was looked at once already or is looked at now. Nothing is left out: "none" is a proof.
 * @param rules which of them count
 * @param within by input: the parts that are looked at; all of them where it is absent
 */
export function findGap(
  dims: readonly Dimension[],
  rules: Bits,
  allowance: Allowance,
  within?: readonly Bits[],
): Gap {
  const open = dims.map((d, i) => membersOf(within?.[i] ?? allBits(d.parts)));
  // Values of which there are none are not left out by anything.
  if (open.some((o) => o.length === 0)) return "none";
  if ((allowance.left -= open.reduce((n, o) => n + o.length, 1) * rules.length) < 0) return "not proved";
  const always = holdsFromHere(dims, rules, open);
  const known = dims.map(() => new Set<string>());
  const look = (i: number, left: Bits): Gap => {
    if (meet(left, always[i]!)) return "none";
    if (i === dims.length || isNone(left)) return { at: open.slice(i).map((o) => o[0]!) };
    const key = keyOf(left);
    if (known[i]!.has(key)) return "none";
    const d = dims[i]!;
    const seen = new Set<string>();
    const next: { part: number; left: Bits; count: number }[] = [];
    // To tell sets apart takes some ten times what a word of them does.
    if ((allowance.left -= open[i]!.length * (left.length + 10)) < 0) return "not proved";
    for (const part of open[i]!) {
      const rest = both(left, d.byPart[part]!);
      const same = keyOf(rest);
      if (seen.has(same)) continue;
      seen.add(same);
      next.push({ part, left: rest, count: countOf(rest) });
    }
    // Where few rules are left a gap is likely, and found before all else is looked at.
    next.sort((a, b) => a.count - b.count);
    for (const n of next) {
      const found = look(i + 1, n.left);
      if (found === "not proved") return found;
      if (found !== "none") return { at: [n.part, ...found.at] };
    }
    known[i]!.add(key);
    return "none";
  };
  return look(0, rules);
}

/** By input: the rules that hold whatever it and those behind it are. */
function holdsFromHere(dims: readonly Dimension[], rules: Bits, open: readonly number[][]): Bits[] {
  const out: Bits[] = [rules];
  for (let i = dims.length - 1; i >= 0; i--) {
    let held = out[0]!;
    for (const p of open[i]!) held = both(held, dims[i]!.byPart[p]!);
    out.unshift(held);
  }
  return out;
}

/**
 * The same for rules of which no two hold at once, by counting: they cover everything just where their parts together are
 * as many as there are. Takes no longer for tables of any shape.
 * @param open by input: the parts that are looked at
 */
export function findGapBetween(
  dims: readonly Dimension[],
  rules: readonly number[],
  open: readonly Bits[],
): Gap {
  const counts = dims.map((d, i) => d.byRule.map((held) => BigInt(countOf(both(held, open[i]!)))));
  const size = (r: number, from: number) => counts.slice(from).reduce((n, of) => n * of[r]!, 1n);
  const all = (from: number) => open.slice(from).reduce((n, o) => n * BigInt(countOf(o)), 1n);
  const covered = (some: readonly number[], from: number) => some.reduce((n, r) => n + size(r, from), 0n);
  if (covered(rules, 0) === all(0)) return "none";
  const at: number[] = [];
  let left = rules;
  for (let i = 0; i < dims.length; i++) {
    const d = dims[i]!;
    for (let part = 0; part < d.parts; part++) {
      if (!has(open[i]!, part)) continue;
      const rest = left.filter((r) => has(d.byRule[r]!, part));
      if (covered(rest, i + 1) === all(i + 1)) continue;
      at.push(part);
      left = rest;
      break;
    }
  }
  return { at };
}
