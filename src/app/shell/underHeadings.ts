import type { Listed } from "@/core/route";

interface Entry {
  name: string;
  purpose: string;
  listed: Listed | null;
}
const LAST = Number.MAX_SAFE_INTEGER;
const placeOf = (e: Entry): number => e.listed?.place ?? LAST;
const byText = (a: string, b: string): number => a.localeCompare(b, "en");

/**
 * The forms under their headings, in the order in which people read them: the heading with the smallest place first, then
 * by its words; under none at the end.
 * @param words only those are kept whose name, purpose or heading holds each of them
 */
export function underHeadings<E extends Entry>(
  entries: readonly E[],
  words = "",
): { heading: string; entries: E[] }[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const holds = (e: E) => {
    const text = `${e.name} ${e.purpose} ${e.listed?.under ?? ""}`.toLowerCase();
    return wanted.every((w) => text.includes(w));
  };
  const all = new Map<string, E[]>();
  for (const e of entries.filter(holds)) {
    const under = e.listed?.under.trim() ?? "";
    all.set(under, [...(all.get(under) ?? []), e]);
  }
  const least = (of: readonly E[]) => Math.min(...of.map(placeOf));
  return [...all]
    .map(([heading, of]) => ({
      heading,
      entries: of.sort((a, b) => placeOf(a) - placeOf(b) || byText(a.name, b.name)),
    }))
    .sort((a, b) => {
      if ((a.heading === "") !== (b.heading === "")) return a.heading === "" ? 1 : -1;
      return least(a.entries) - least(b.entries) || byText(a.heading, b.heading);
    });
}
