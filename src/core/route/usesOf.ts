import { walkFields } from "../form";
import type { Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";
import { placesOf, withLists } from "./tree";

/** Something of the office that definitions name by its key. */
export type Named = "register" | "duty" | "group" | "calendar";

/** Where a definition names something: a field, a step by its number, or the process itself. */
export interface Use {
  number: string;
  name: string;
}

/**
 * Where a definition names a register, a duty, a group or a calendar: as a property of that name anywhere in a field,
 * step, start or the process, whatever its kind; or as a text inside a formula, as functions that ask the office take it.
 */
export function usesOf(d: ProcessDefinition, kinds: Kinds, of: Named, key: string): Use[] {
  const quoted = JSON.stringify(key);
  const names = (x: unknown): boolean => {
    if (typeof x === "string") return of !== "calendar" && of !== "register" && x.includes(quoted);
    if (Array.isArray(x)) return x.some(names);
    if (typeof x !== "object" || x === null) return false;
    return Object.entries(x).some(([k, v]) => (k === of && v === key) || names(v));
  };
  const out: Use[] = [];
  const { fields, route, samples: _, ...process } = d;
  if (names(process)) out.push({ number: "", name: "the process itself" });
  walkFields(fields, (f) => {
    if (names({ ...f, fields: [] })) out.push({ number: "", name: `field ${f.name}` });
  });
  for (const { step, number } of placesOf({ route }, kinds).values())
    if (names(withLists(step, kinds, () => []))) out.push({ number, name: step.name });
  return out;
}
