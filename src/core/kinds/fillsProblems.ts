import { findField, type Field } from "../form";
import type { FilledByRecord } from "../records/ofRecords";
import type { Say } from "./say";

/** What is wrong with what a record that starts a request fills in of its form. */
export function fillsProblems(
  { register, into, values }: FilledByRecord,
  fields: readonly Field[],
  say: Say,
): void {
  const named = (id: string) => findField(fields, id)?.field;
  const link = into === null ? null : named(into);
  if (link !== null && (link?.kind !== "look-up" || link.register !== register))
    say("error", "bad-into", "The record can only be kept in a look-up field of the same register.", "into");
  for (const { field, value } of values) {
    const f = named(field);
    const at = `value ${field}`;
    if (!f) say("error", "no-field", "A field it fills in is not in the form any more.", at);
    else if (f.worked) say("error", "worked-out", `“${f.name}” is worked out; nothing else fills it in.`, at);
    if (!value.trim()) say("error", "no-value", `Say what “${f?.name ?? field}” begins with.`, at);
  }
}
