import { readText } from "@/core/expression";
import { choicesText, fieldValue, type Facts, type Field, type Stored } from "@/core/form";
import { KINDS } from "@/kinds";

/** A stored value in words; nothing for what is empty, and for lines. What cannot be read any more is said as it is kept. */
export function valueSaid(field: Field, v: Stored | undefined, facts: Facts): string {
  if (v === null || v === undefined || v === "" || Array.isArray(v)) return "";
  if (field.optionLabels) return choicesText(field, String(v));
  const read = fieldValue(field, v, KINDS.fields, facts);
  return read === null ? String(v) : readText(read, KINDS.fields[field.kind].has.money);
}
