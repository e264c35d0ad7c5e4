import { isList, saidValue, type Value } from "../expression";
import type { FieldKinds, TypedField, ValueFacts } from "./fieldBehaviour";
import type { Field } from "./field";
import { isForeign, stored } from "./stored";

/**
 * A value that was worked out as a field or column keeps it: rounded and converted as its kind does; or why it cannot
 * be kept there. What is kept is what whoever edits the field next would be allowed to send.
 */
export function keptAs(
  f: TypedField & Pick<Field, "name"> & Partial<Field>,
  v: Value,
  kinds: FieldKinds,
  facts: ValueFacts,
): { kept: string | boolean | null } | { why: string } {
  const kind = kinds[f.kind];
  const settled = kind.settled(v);
  if (settled === null || (kind.many && isList(settled) && settled.length === 0)) return { kept: null };
  const kept = isForeign(settled, f, kind) ? null : stored(settled, kind);
  const again = kept === null ? null : kind.value(f, kept, facts);
  if (again === null || kind.mistakes({ id: "", ...f }, kept, again).length > 0)
    return { why: `${saidValue(v)} cannot be kept as “${f.name}” (${f.kind}).` };
  return { kept };
}
