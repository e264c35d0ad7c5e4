import { nameMistake } from "../expression";
import type { FieldBehaviour } from "./fieldBehaviour";
import type { FieldKinds } from "./fieldBehaviour";
import { holdsFields, type Field, type FieldKind } from "./field";

/** A name as it must be: what formulas cannot read becomes a space. */
export function tidyName(text: string): string {
  const name = text
    .replace(/[^\p{L}\p{N}_ ]/gu, " ")
    .replace(/\s+/g, " ")
    .trim()
    .replace(/^\p{N}+\s*/u, "")
    .slice(0, 60)
    .trim();
  return nameMistake(name) === null ? name : "";
}

/**
 * Fields from pasted rows: name, then (when given) kind, then anything that says "needed". The kind is
 * guessed from the words of the name when the row does not tell.
 * @param newId gives a fresh id for a name
 */
export function fieldsFromRows(text: string, kinds: FieldKinds, newId: (name: string) => string): Field[] {
  const known = Object.entries(kinds) as [FieldKind, FieldBehaviour][];
  const guesses = known
    .flatMap(([kind, { guess }]) => (guess ? [{ kind, ...guess }] : []))
    .sort((a, b) => a.rank - b.rank);
  return text.split(/\r?\n/).flatMap((row) => {
    const [first = "", second = "", ...rest] = row.split("\t").map((c) => c.trim());
    const name = tidyName(first);
    if (!name) return [];
    const said = known.find(([k]) => k === second.toLowerCase())?.[0];
    const kind = said ?? guesses.find((g) => g.words.test(first))?.kind ?? "text";
    const needed = [second, ...rest].some((c) => /^(needed|required|yes|x|must)$/i.test(c));
    return [
      {
        id: newId(name),
        name,
        kind,
        ...(needed ? { needed: "true" } : {}),
        ...(kinds[kind].has.options === "values" ? { options: [] } : {}),
        ...(holdsFields(kind) ? { fields: [] } : {}),
      },
    ];
  });
}
