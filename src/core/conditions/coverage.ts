import { equalValues, type Node, type Value } from "../expression";
import { holdsFor, samplesFor, singleName, type Domain } from "./samples";

/** What is known of conditions that are tried one after the other, the first that holds being taken. */
export interface Coverage {
  /** By condition: nothing makes it hold; or whatever does makes one before it hold. Null where that is not known. */
  never: ("alone" | "behind" | null)[];
  /** A value for which none of them holds; null where there is none, undefined where that is not known. */
  gap: Value | undefined;
  /** Whether the gap is just at a value that a condition names. */
  atBorder: boolean;
  /** Whether none holds when the value is empty; undefined where that is not known. */
  emptyFalls: boolean | undefined;
  name: string | null;
}

/**
 * Looks at conditions over single names by trying every value at which they can differ. Several names together are not
 * looked at: what cannot be known is not said.
 */
export function coverage(
  conditions: readonly (Node | null)[],
  domainOf: (name: string) => Domain | null,
): Coverage {
  const single = conditions.map((c) => c && singleName(c));
  const never = single.map((c, i): "alone" | "behind" | null => {
    if (!c) return null;
    const domain = domainOf(c.name);
    const before = single.slice(0, i).filter((b) => b !== null && b.name === c.name);
    const near = [c, ...before.map((b) => b!)];
    const all =
      domain &&
      samplesFor(
        domain,
        near.flatMap((b) => b.borders),
        near.some((b) => b.ordered),
      );
    if (!all) return null;
    const holding = [...all, null].filter((v) => holdsFor(c, v));
    if (holding.length === 0) return "alone";
    return holding.every((v) => before.some((b) => holdsFor(b!, v))) ? "behind" : null;
  });
  const names = new Set(single.map((c) => c?.name ?? null));
  const [name] = names;
  const domain = names.size === 1 && name ? domainOf(name) : null;
  const known = single.filter((c) => c !== null);
  const all =
    domain &&
    samplesFor(
      domain,
      known.flatMap((c) => c.borders),
      known.some((c) => c.ordered),
    );
  if (!all || known.length === 0)
    return { never, gap: undefined, atBorder: false, emptyFalls: undefined, name: null };
  const falls = (v: Value) => !known.some((c) => holdsFor(c, v));
  const gap = all.find(falls);
  const atBorder =
    gap !== undefined && known.some((c) => c.borders.some((b) => equalValues(b, gap) === true));
  return { never, gap: gap ?? null, atBorder, emptyFalls: falls(null), name: name! };
}
