import { Entity, isDateTime, isList, isTime, valueText, type Value } from "../expression";
import type { FieldBehaviour, TypedField } from "./fieldBehaviour";

/** A value as a field of a kind stores it: times to the minute where they have no seconds, as they are typed. */
export function stored(v: Value, kind: Pick<FieldBehaviour, "links" | "many">): string | boolean | null {
  if (v === null || typeof v === "boolean" || typeof v === "string") return v;
  if (v instanceof Entity) return kind.links ? kind.links.pointer({ register: v.of, id: v.id }) : v.id;
  if (isList(v) && kind.many) return kind.many.kept(v);
  return isTime(v) || isDateTime(v) ? valueText(v).replace(/(\d\d:\d\d):00$/, "$1") : valueText(v);
}

/** Whether a value is a record a field cannot point at, or holds one: its id there would be that of another. */
export const isForeign = (v: Value, f: TypedField, kind: Pick<FieldBehaviour, "links" | "many">): boolean => {
  if (kind.many && isList(v)) return v.some((x) => isForeign(x, f, { ...kind, many: null }));
  return v instanceof Entity && kind.links !== null && !kind.links.registers(f).includes(v.of);
};
