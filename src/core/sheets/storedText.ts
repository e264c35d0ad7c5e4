import type { Column, FieldKinds } from "../form";

/** What ids in a record stand for, by name. */
export interface IdNames {
  person(id: string): string;
  record(column: string, id: string): string;
  /** @param value ids of files, as the column holds them */
  file(column: string, value: string): string;
}

/** A stored value as a cell of a sheet has it: decimal text, ISO dates, names instead of ids, so that it reads back. */
export function storedText(
  c: Column,
  value: string | boolean | null | undefined,
  names: IdNames,
  kinds: FieldKinds,
): string {
  if (value === null || value === undefined || value === "") return "";
  if (typeof value === "boolean") return value ? "Yes" : "No";
  if (c.kind === "person") return names.person(value);
  const { many, idOf } = kinds[c.kind];
  if (idOf === "file") return names.file(c.id, value);
  if (many) return many.texts(value).join("; ");
  return kinds[c.kind].links ? names.record(c.id, value) : value;
}
