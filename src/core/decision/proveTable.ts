import type { Domain } from "../conditions";
import type { Node, Value } from "../expression";
import { atomsOf, type Atoms } from "./atoms";
import { allBits, has, inside, isNone, meet, membersOf, noBits, put, type Bits } from "./bits";
import { dimension, findGap, findGapBetween, type Allowance, type Dimension, type Gap } from "./gap";
import { findOverlaps } from "./overlaps";
import type { HitPolicy } from "./table";

/** One input of a table as far as a proof needs it. */
export interface ProvenInput {
  /** The values it may have; null where nothing is known of them. */
  domain: Domain | null;
  /** Whether it is never empty. */
  needed: boolean;
  /** By rule: its test as a tree, `any` where nothing stands there, null where it cannot be read. */
  tests: readonly (Node | "any" | null)[];
}

/** A value of each input, in order; undefined where any will do. */
export type Example = readonly (Value | undefined)[];

export interface TableProof {
  /** Rules (from 0) that no values reach: a test of theirs never holds, or others always come before. */
  never: { rule: number; why: "impossible" | "behind" }[];
  /**
   * Rules (from 0) that hold at once where they may not; `sure` where all their tests are written out, so that they do
   * and not only may.
   */
  overlaps: { first: number; second: number; at: Example; sure: boolean }[];
  /** How many there are that are sure, and how many may be; those behind the first few are not told one by one. */
  overlapping: { sure: number; unsure: number };
  /** Values for which no rule holds; `empty` where that is so only when something is empty. */
  gap: { at: Example; empty: boolean } | "none" | "not proved";
  /** There was no time to look at everything: what is not told may still be so. */
  partly: boolean;
}

/** What a look at sets of rules costs at most, in words of 32 rules: a fraction of a second. */
const MOST_LOOKED_AT = 6_000_000;

/**
 * Proves what can be known of a table before it runs, by trying one value for each part of its inputs that its tests can
 * tell apart (`atomsOf`). A test that is not written out covers nothing where gaps are looked for and everything where
 * overlaps are, so that "complete" is never said of a table that is not.
 * @param may whether the outputs of two rules let both hold; asked only with hit policies that take one of several
 * @param before whether the first rule is gone by where both hold
 */
export function proveTable(
  hits: HitPolicy,
  rules: number,
  inputs: readonly ProvenInput[],
  may: (first: number, second: number) => boolean,
  before: (first: number, second: number) => boolean,
): TableProof {
  const allowance: Allowance = { left: MOST_LOOKED_AT / 2 };
  const known = inputs.map((i) => inputOf(i));
  const all = Array.from({ length: rules }, (_, r) => r);
  const unsure = new Set(all.filter((r) => known.some((k) => k.open.has(r))));
  const sure = all.filter((r) => !unsure.has(r));
  const never = new Map<number, "impossible" | "behind">();
  for (const r of all) if (known.some((k) => isNone(k.dim.byRule[r]!))) never.set(r, "impossible");
  const takesOne = hits === "unique" || hits === "any";
  const dims = known.map((k) => k.dim);
  const looked = (of: (first: number, second: number) => boolean) =>
    takesOne
      ? findOverlaps(dims, all, allowance, (a, b) => of(a, b) && (hits === "unique" || !may(a, b)))
      : { found: [], count: 0, partly: false };
  const areSure = (a: number, b: number) => !unsure.has(a) && !unsure.has(b);
  // Apart from each other: what is sure must not be lost behind the many that only may be.
  const certain = looked(areSure);
  const perhaps = looked((a, b) => !areSure(a, b));
  let partly = certain.partly || perhaps.partly;
  const apart = hits === "unique" && certain.count + perhaps.count === 0 && !partly;
  if (hits === "first" || hits === "priority")
    for (const r of all) {
      if (never.has(r)) continue;
      const box = dims.map((d) => d.byRule[r]!);
      const others = noBits(rules);
      if ((allowance.left -= sure.length) < 0) {
        partly = true;
        break;
      }
      for (const o of sure)
        if (o !== r && before(o, r) && dims.every((d, i) => meet(d.byRule[o]!, box[i]!))) put(others, o);
      // Mostly it is one rule alone that has all of it.
      const whole = membersOf(others).some((o) => dims.every((d, i) => inside(box[i]!, d.byRule[o]!)));
      if (whole) {
        never.set(r, "behind");
        continue;
      }
      const found = isNone(others) ? { at: [] } : findGap(dims, others, allowance, box);
      if (found === "none") never.set(r, "behind");
      if (found === "not proved") partly = true;
    }
  const values = known.map((k) => k.values);
  return {
    never: [...never].map(([rule, why]) => ({ rule, why })).sort((a, b) => a.rule - b.rule),
    overlaps: [...certain.found, ...perhaps.found].map(({ first, second, at }) => ({
      first,
      second,
      at: at.map((part, i) => values[i]![part]),
      sure: areSure(first, second),
    })),
    overlapping: { sure: certain.count, unsure: perhaps.count },
    gap: gapOf(known, dims, { rules, sure, unsure, apart }, { left: MOST_LOOKED_AT / 2 }),
    partly,
  };
}

interface KnownInput {
  dim: Dimension;
  values: Example;
  empty: number;
  /** Rules whose test is not written out. */
  open: Set<number>;
}

function inputOf({ domain, needed, tests }: ProvenInput): KnownInput {
  const trees = tests.filter((t): t is Node => t !== null && t !== "any");
  const atoms: Atoms | null = domain && atomsOf(domain, trees, needed);
  const values = atoms?.values ?? [undefined];
  const open = new Set<number>();
  const made = new Map<Node, Bits | null>();
  const byRule = tests.map((t, r): Bits => {
    if (t === "any") return allBits(values.length);
    let held = t === null || !atoms ? null : made.get(t);
    if (held === undefined) made.set(t!, (held = atoms!.holds(t!)));
    if (held) return held;
    open.add(r);
    return allBits(values.length);
  });
  return { dim: dimension(values.length, byRule), values, empty: atoms?.empty ?? -1, open };
}

interface Which {
  rules: number;
  sure: readonly number[];
  unsure: ReadonlySet<number>;
  /** No two of them hold at once. */
  apart: boolean;
}

function gapOf(
  known: readonly KnownInput[],
  dims: readonly Dimension[],
  { rules, sure, unsure, apart }: Which,
  allowance: Allowance,
): TableProof["gap"] {
  const counted = noBits(rules);
  for (const r of sure) put(counted, r);
  const look = (within: readonly Bits[]): Gap => {
    const found = findGap(dims, counted, allowance, within);
    return found === "not proved" && apart ? findGapBetween(dims, sure, within) : found;
  };
  const filled = known.map((k, i) => {
    const some = allBits(dims[i]!.parts);
    if (k.empty >= 0) some[k.empty >> 5]! &= ~(1 << (k.empty & 31));
    return some;
  });
  let found = look(filled);
  if (found === "none") found = look(dims.map((d) => allBits(d.parts)));
  if (typeof found === "string") return found;
  const { at } = found;
  // A rule whose test only a run shows may hold there.
  if ([...unsure].some((r) => dims.every((d, i) => has(d.byRule[r]!, at[i]!)))) return "not proved";
  return {
    at: at.map((part, i) => known[i]!.values[part]),
    empty: at.some((part, i) => part === known[i]!.empty),
  };
}
