import { sha256 } from "@noble/hashes/sha2";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils";
import { Entity, isContext, isList, valueText, type Names, type Value } from "../expression";

/**
 * What a form asks of a register: whether any of its records meet the condition of a check, or hold what was chosen from
 * one of their columns.
 */
export interface RecordsAsked {
  /** Tells what is asked apart: the check and its row, or the field and the text, and what stands in all that is read. */
  key: string;
  /** The field or column it is asked for. */
  field: string;
  /** Which check of it; or the text that was chosen, and what one search can answer together with others alike. */
  about: { check: number } | { chosen: string; alike: string };
  /** What its condition reads besides the columns. */
  names: Names;
}

/** Whether there are such records; or why that cannot be told. */
export type RecordsAnswer = { there: boolean } | { why: string };

/** So many searches one form may come to; of a table each row with such a check asks. */
export const MOST_ASKED = 200;

/** From this length on a key is kept short; a shorter one is readable. */
const LONG = 200;

/** @param read the values of all that the condition reads of the form, in the order of the form */
export function askedKey(path: string, place: string, read: readonly Value[]): string {
  const all = read.map((v) => valueKey(v)).join(";");
  const short = all.length > LONG ? bytesToHex(sha256(utf8ToBytes(all))) : all;
  return `${path}#${place} ${short}`;
}

/** A value as text by which it is told from any other; unlike `valueText` whole, and a record by what it is. */
function valueKey(v: Value, depth = 0): string {
  if (v === null || depth > 6) return "-";
  if (typeof v === "string") return JSON.stringify(v);
  if (isList(v)) return `[${v.map((x) => valueKey(x, depth + 1)).join(",")}]`;
  if (v instanceof Entity) return `${v.of}/${v.id}`;
  if (isContext(v))
    return `{${[...v.keys()].map((k) => `${JSON.stringify(k)}:${valueKey(v.get(k) ?? null, depth + 1)}`).join(",")}}`;
  return valueText(v);
}
