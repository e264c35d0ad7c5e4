import { nameMistake } from "../expression";
import { FIELD_KINDS, holdsFields, type Field, type FieldKind } from "./field";

const BY_WORD: [RegExp, FieldKind][] = [
  [/\b(date|day|from|until|starts?|ends?|when|deadline)\b/i, "date"],
  [/\b(price|cost|amount|value|total|fee|budget|eur)\b/i, "money"],
  [/\b(number of|count|quantity|pieces|how many|age|size)\b/i, "number"],
  [/\b(description|reason|remarks?|notes?|comments?|purpose|why|details|instructions)\b/i, "long text"],
  [/^(is|has|are|needs?)\b|\b(needed|urgent|done|yes no|confirmed|agreed)$|\?$/i, "yes or no"],
  [/\b(file|attachments?|photos?|pictures?|scans?|pdf|documents?|uploads?)\b/i, "file"],
  [/\b(requester|manager|person|contact person|colleague|responsible)\b/i, "person"],
];

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
export function fieldsFromRows(text: string, newId: (name: string) => string): Field[] {
  return text.split(/\r?\n/).flatMap((row) => {
    const [first = "", second = "", ...rest] = row.split("\t").map((c) => c.trim());
    const name = tidyName(first);
    if (!name) return [];
    const said = FIELD_KINDS.find((k) => k === second.toLowerCase());
    const kind = said ?? BY_WORD.find(([re]) => re.test(first))?.[1] ?? "text";
    const needed = [second, ...rest].some((c) => /^(needed|required|yes|x|must)$/i.test(c));
    return [
      {
        id: newId(name),
        name,
        kind,
        ...(needed ? { needed: "true" } : {}),
        ...(kind === "choice" ? { options: [] } : {}),
        ...(holdsFields(kind) ? { fields: [] } : {}),
      },
    ];
  });
}
