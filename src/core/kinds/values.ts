import { Entity, isContext, isList, type Value } from "../expression";

/** Ids of whatever a value stands for: a person, an id, a list of them. */
export function idsOf(v: Value): string[] {
  if (typeof v === "string") return [v];
  if (isList(v)) return v.flatMap(idsOf);
  return v instanceof Entity ? [v.id] : [];
}
/** The same of records of one register; null where something else stands among them, whose id means another record there. */
export function idsIn(v: Value, register: string): string[] | null {
  const all = (isList(v) ? v : [v]).map((x) => (x instanceof Entity && x.of !== register ? null : idsOf(x)));
  return all.includes(null) ? null : (all as string[][]).flat();
}
/** The name of a record. */
export const nameOf = (v: Value): string | null => {
  const name = isContext(v) ? v.get("name") : null;
  return typeof name === "string" ? name : null;
};
