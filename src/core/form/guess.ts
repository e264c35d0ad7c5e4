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

export interface PastedFields {
  fields: Field[];
  /** Names that are not as they were pasted: what formulas cannot read went, and doubles were numbered. */
  renamed: { from: string; to: string }[];
  /** Rows that hold no name. */
  left: string[];
  /** Kinds that were named and are none; those fields are texts. */
  unknown: { name: string; kind: string }[];
}

/** What says that a field is needed, and is no kind. */
const NEEDED = /^(needed|required|yes|x|must)$/i;

/** What kinds are told apart by when somebody names them freely: "line items" is lines, "Yes/No" yes or no. */
const stem = (kind: string): string =>
  kind
    .toLowerCase()
    .split(/[^\p{L}]+/u)[0]!
    .replace(/s$/, "");

/**
 * Fields from pasted rows: name, then (when given) kind, then anything that says "needed". The kind is
 * guessed from the words of the name when the row does not tell.
 * @param newId gives a fresh id for a name
 * @param taken whether a name, in small letters, is that of another field already
 */
export function fieldsFromRows(
  text: string,
  kinds: FieldKinds,
  newId: (name: string) => string,
  taken: (name: string) => boolean,
): PastedFields {
  const known = Object.entries(kinds) as [FieldKind, FieldBehaviour][];
  const guesses = known
    .flatMap(([kind, { guess }]) => (guess ? [{ kind, ...guess }] : []))
    .sort((a, b) => a.rank - b.rank);
  const out: PastedFields = { fields: [], renamed: [], left: [], unknown: [] };
  const given = new Set<string>();
  const isTaken = (name: string) => taken(name.toLowerCase()) || given.has(name.toLowerCase());
  const numbered = (name: string): string => {
    let now = name;
    for (let n = 2; isTaken(now); n++) now = `${name} ${n}`;
    given.add(now.toLowerCase());
    return now;
  };
  for (const row of text.split(/\r?\n/)) {
    const [first = "", second = "", ...rest] = row.split("\t").map((c) => c.trim());
    const tidied = tidyName(first);
    if (!tidied) {
      if (first) out.left.push(first);
      continue;
    }
    const name = numbered(tidied);
    if (name !== first) out.renamed.push({ from: first, to: name });
    const names = second !== "" && !NEEDED.test(second);
    const said =
      known.find(([k]) => k === second.toLowerCase()) ??
      (names ? known.find(([k]) => stem(k) === stem(second)) : undefined);
    // A kind that was meant is not guessed against.
    if (names && !said) out.unknown.push({ name, kind: second });
    const guessed = names ? undefined : guesses.find((g) => g.words.test(first))?.kind;
    const kind = said?.[0] ?? guessed ?? "text";
    const needed = [second, ...rest].some((c) => NEEDED.test(c));
    out.fields.push({
      id: newId(name),
      name,
      kind,
      ...(needed ? { needed: "true" } : {}),
      ...(kinds[kind].has.options === "values" || kinds[kind].has.options === "several values"
        ? { options: [] }
        : {}),
      ...(holdsFields(kind) ? { fields: [] } : {}),
    });
  }
  return out;
}
