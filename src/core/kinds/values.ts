import { Entity, isContext, isList, type Value } from "../expression";

/** Ids of whatever a value stands for: a person, an id, a list of them. */
export function idsOf(v: Value): string[] {
  if (typeof v === "string") return [v];
  if (isList(v)) return v.flatMap(idsOf);
  return v instanceof Entity ? [v.id] : [];
}
/** The name of a record. */
export const nameOf = (v: Value): string | null => {
  const name = isContext(v) ? v.get("name") : null;
  return typeof name === "string" ? name : null;
};
