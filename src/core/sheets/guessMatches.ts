import type { Column } from "../form";

/** What a heading and a name are compared by: letters and figures alone. */
const plain = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, "");

/**
 * To which column each heading of a sheet goes, by its name: the same letters and figures, whatever stands between them.
 * Each column once, the first heading first. @param columns those that may be filled in
 */
export function guessMatches(headings: readonly string[], columns: readonly Column[]): (string | null)[] {
  const given = new Set<string>();
  return headings.map((h) => {
    const said = plain(h);
    if (said === "") return null;
    const found = columns.find((c) => !given.has(c.id) && (plain(c.name) === said || plain(c.id) === said));
    if (found) given.add(found.id);
    return found?.id ?? null;
  });
}
