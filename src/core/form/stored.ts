import { isContext, valueText, type Value } from "../expression";

/** A value as it is stored. */
export function stored(v: Value): string | boolean | null {
  if (v === null || typeof v === "boolean" || typeof v === "string") return v;
  if (isContext(v)) {
    const id = v.get("id");
    return typeof id === "string" ? id : valueText(v);
  }
  return valueText(v);
}
