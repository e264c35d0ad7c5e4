import { optionText, type Field } from "./field";

/**
 * The choice a text names: as it is kept, or as people read it; in other capitals only where that is told apart by more
 * than capitals. The text itself where it names none, for the field to refuse.
 */
export function optionNamed(f: Pick<Field, "options" | "optionLabels">, text: string): string {
  const options = f.options ?? [];
  if (options.includes(text)) return text;
  const named = (same: (a: string) => boolean) => options.filter((o) => same(o) || same(optionText(f, o)));
  const exactly = named((a) => a === text);
  if (exactly.length === 1) return exactly[0]!;
  const alike = named((a) => a.toLowerCase() === text.toLowerCase());
  return alike.length === 1 ? alike[0]! : text;
}

/** What is chosen in a field, one a line as several are kept, as people read it. */
export const choicesText = (f: Pick<Field, "optionLabels">, raw: string): string =>
  raw
    .split("\n")
    .map((o) => optionText(f, o))
    .join(", ");

/** A choice that reads like another one, which nobody could tell from it; null where there is none. */
export function readsTwice(f: Pick<Field, "options" | "optionLabels">): string | null {
  const seen = new Set<string>();
  for (const o of f.options ?? []) {
    const text = optionText(f, o);
    if (seen.has(text)) return text;
    seen.add(text);
  }
  return null;
}
