import { dateFrom, toNum, type Scope } from "../expression";
import { flatFields, type Field } from "../form";
import type { Domain } from "./samples";

/** The values a name can have where conditions read it, and whether it can be empty there; null for what is no field. */
export function domainOf(
  name: string,
  scope: Scope,
  fields: readonly Field[],
): (Domain & { field: Field }) | null {
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
