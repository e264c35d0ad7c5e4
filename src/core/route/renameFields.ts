import { isGroup, findField, walkFields, type Field } from "../form";
import type { Renaming } from "../expression";
import type { ProcessDefinition } from "./definition";
import { RefusedEdit } from "./refuse";
import { renameInFormulas } from "./renameInFormulas";
import type { Surrounding } from "./surrounding";

/**
 * Several fields called otherwise at once, with every formula that reads them; one by one each would be a look at all
 * formulas. Null where what some formula would mean then cannot be told.
 * @param names by id; they are free, and can be names, as is the caller's to see
 */
export function renameFields(
  d: ProcessDefinition,
  names: ReadonlyMap<string, string>,
  around: Surrounding,
): ProcessDefinition | null {
  const called = (f: Field): Field => ({
    ...f,
    name: names.get(f.id) ?? f.name,
    ...(f.fields && { fields: f.fields.map(called) }),
  });
  const all: Renaming[] = [];
  walkFields(d.fields, (f) => {
    const to = names.get(f.id);
    // Pages and sections have no values to read.
    if (to === undefined || isGroup(f)) return;
    const lines = findField(d.fields, f.id)!.parents.find((p) => p.kind === "lines");
    all.push({ id: `field ${f.id}`, entryOf: lines ? `rows ${lines.id}` : null, from: f.name, to });
  });
  try {
    return renameInFormulas(d, { ...d, fields: d.fields.map(called) }, around, all);
  } catch (e) {
    if (e instanceof RefusedEdit) return null;
    throw e;
  }
}
