import { isGroup, takesIn, walkFields, type Access, type AccessOf } from "../form";
import { START, type ProcessDefinition } from "./definition";

/**
 * What someone at a step may do with each field: the field's own entry, else that of the section or
 * lines it stands in, else edit at the start and see everywhere after. What begins a procedure is what is handed in.
 */
export function accessAt(
  definition: Pick<ProcessDefinition, "fields" | "access" | "procedure">,
  step: string,
): AccessOf {
  const table = definition.access[step] ?? {};
  const known = new Map<string, Access>();
  walkFields(definition.fields, (f, parents) => {
    const byStep = step === START ? "edit" : "see";
    const handed = step === START && definition.procedure && !isGroup(f) && parents.every(isGroup);
    if (handed) return void known.set(f.id, takesIn(f) ? "edit" : "see");
    const inherited = parents.length > 0 ? known.get(parents.at(-1)!.id)! : byStep;
    const own = table[f.id] ?? inherited;
    known.set(f.id, inherited === "hide" ? "hide" : own);
  });
  return (id) => known.get(id) ?? "hide";
}

/** The most that any of several accesses allows; edit counts as see when only looking. */
export function widest(accesses: readonly AccessOf[]): AccessOf {
  return (id) => {
    const all = accesses.map((a) => a(id));
    if (all.includes("edit")) return "edit";
    if (all.includes("see")) return "see";
    return "hide";
  };
}

export const readOnly =
  (access: AccessOf): AccessOf =>
  (id) =>
    access(id) === "hide" ? "hide" : "see";
