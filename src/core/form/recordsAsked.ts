import { sha256 } from "@noble/hashes/sha2";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils";
import { Entity, isContext, isList, valueText, type Names, type Value } from "../expression";

/** What a check of a form asks of a register: whether any of its records meet the condition. */
export interface RecordsAsked {
  /** Tells what is asked apart: the check, its row, and what stands in all it reads. */
  key: string;
  /** The field or column the check stands at, and which of its checks it is. */
  field: string;
  check: number;
  /** What its condition reads besides the columns. */
  names: Names;
}

/** Whether there are such records; or why that cannot be told. */
export type RecordsAnswer = { there: boolean } | { why: string };

/** So many questions about records one form may come to; of a table each row with such a check asks. */
export const MOST_ASKED = 200;

/** From this length on a key is kept short; a shorter one is readable. */
const LONG = 200;

/** @param read the values of all that the condition reads of the form, in the order of the form */
export function askedKey(path: string, check: number, read: readonly Value[]): string {
  const all = read.map((v) => valueKey(v)).join(";");
  const short = all.length > LONG ? bytesToHex(sha256(utf8ToBytes(all))) : all;
  return `${path}#${check} ${short}`;
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
