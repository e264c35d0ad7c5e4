import { dateFrom, toNum, type Scope } from "../expression";
import { flatFields, type Field } from "../form";
import type { Domain } from "./samples";

/**
 * The values a name can have where conditions read it, and the field that it is, where it is one; null for what is neither
 * a field nor one of a few values that a step comes to.
 * @param name of a field, or of a step and what it comes to ("Handling.Way")
 */
export function domainOf(
  name: string,
  scope: Scope,
  fields: readonly Field[],
): (Domain & { field: Field | null }) | null {
  const [step, entry, ...deeper] = name.split(".");
  if (entry !== undefined) {
    const of = Object.hasOwn(scope, step!) ? scope[step!] : undefined;
    if (deeper.length > 0 || of?.t !== "context" || of.what !== undefined || !Object.hasOwn(of.fields, entry))
      return null;
    const type = of.fields[entry]!;
    // Of a number, or any other text, a step may come to a few only.
    const few = type.t === "yesno" || (type.t === "text" && type.options !== undefined);
    return few ? { type, field: null } : null;
  }
  const field = flatFields(fields).find((f) => f.name === name);
  const type = Object.hasOwn(scope, name) ? scope[name] : undefined;
  if (!field || !type || field.kind === "lines") return null;
  const end = (text: string | undefined) => {
    if (text === undefined || text === "") return null;
    return type.t === "date" ? dateFrom(text) : toNum(text);
  };
  const [min, max] = [end(field.min), end(field.max)];
  return {
    type,
    field,
    ...(field.kind === "money" ? { grain: "0.01" } : {}),
    ...(min ? { min } : {}),
    ...(max ? { max } : {}),
  };
}
