import { Entity, valueText, type Value } from "../expression";

/** A value as it is stored. */
export function stored(v: Value): string | boolean | null {
  if (v === null || typeof v === "boolean" || typeof v === "string") return v;
  if (v instanceof Entity) return v.id;
  return valueText(v);
}
