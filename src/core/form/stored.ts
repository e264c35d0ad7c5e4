import { Entity, isDateTime, isTime, valueText, type Value } from "../expression";

/** A value as it is stored: times to the minute where they have no seconds, as they are typed. */
export function stored(v: Value): string | boolean | null {
  if (v === null || typeof v === "boolean" || typeof v === "string") return v;
  if (v instanceof Entity) return v.id;
  return isTime(v) || isDateTime(v) ? valueText(v).replace(/(\d\d:\d\d):00$/, "$1") : valueText(v);
}
