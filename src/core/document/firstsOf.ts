import type { Filled } from "./filled";
import { tagTree, type TagNode, type TreeTag } from "./tagTree";

/** What a tag came to first, in words, or why that cannot be told; `times` counts how often it was asked. */
export type FirstOf = { said: string; times: number } | { why: string };

/** By tag what stands in its place first; null where nothing does. @param named what a file is called */
export function firstsOf(
  tags: readonly TreeTag[],
  filled: readonly Filled[],
  named: (file: string) => string,
): (FirstOf | null)[] {
  const out: (FirstOf | null)[] = tags.map(() => null);
  const note = (at: number, said: string) => {
    const known = out[at];
    if (!known) out[at] = { said, times: 1 };
    else if ("said" in known) out[at] = { said: known.said || said, times: known.times + 1 };
  };
  const all = (nodes: readonly TagNode[], values: readonly Filled[]): void =>
    nodes.forEach((n, i) => {
      const f = values[i];
      if (f === undefined) return;
      if (typeof f === "string") note(n.at, f);
      else if ("picture" in f) note(n.at, f.picture === null ? "" : named(f.picture));
      else if ("times" in f) {
        note(n.at, timesSaid(f.times.length));
        if (n.node === "each") for (const x of f.times) all(n.parts, x);
      } else {
        note(n.at, f.holds ? "yes" : "no");
        if (n.node === "if") all(f.holds ? n.parts : n.otherwise, f.parts);
      }
    });
  all(tagTree(tags).nodes, filled);
  return out;
}

const timesSaid = (n: number): string => (n === 1 ? "once" : `${n} times`);
