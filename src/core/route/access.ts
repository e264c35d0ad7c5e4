import { fillableIn, isGroup, takesIn, walkFields, type Access, type AccessOf } from "../form";
import { START, type ProcessDefinition } from "./definition";

/**
 * What someone at a step may do with each field: the field's own entry, else that of the section or
 * lines it stands in, else edit at the start and see everywhere after. What begins a procedure is what is handed in.
 */
export const accessAt = (
  definition: Pick<ProcessDefinition, "fields" | "access" | "procedure" | "forms">,
  step: string,
): AccessOf => accessOf(definition, step, step === START && definition.procedure === true);

/**
 * The access with which one begins that others hand values to: they give what is handed in,
 * and what a start fills in by itself (`also`), and nothing else.
 */
export function handedAccess(
  definition: Pick<ProcessDefinition, "fields" | "access" | "forms">,
  also: ReadonlySet<string>,
): AccessOf {
  const handed = accessOf(definition, START, true);
  return (id) => (also.has(id) ? "edit" : handed(id));
}

/** Access where one field holds what something else filled in, and nobody picks another there. */
export const heldAccess =
  (access: AccessOf, field: string | null): AccessOf =>
  (id) =>
    id === field && access(id) === "edit" ? "see" : access(id);

function accessOf(
  definition: Pick<ProcessDefinition, "fields" | "access" | "forms">,
  step: string,
  begun: boolean,
): AccessOf {
  const table = definition.access[step] ?? {};
  const known = new Map<string, Access>();
  walkFields(definition.fields, (f, parents) => {
    const byStep = step === START ? "edit" : "see";
    const handed = begun && !isGroup(f) && parents.every(isGroup);
    if (handed) return void known.set(f.id, takesIn(f) ? "edit" : "see");
    const inherited = parents.length > 0 ? known.get(parents.at(-1)!.id)! : byStep;
    const own = table[f.id] ?? inherited;
    known.set(f.id, inherited === "hide" ? "hide" : own);
  });
  // Values that are handed over come by no form.
  const fillable = begun ? null : fillableIn(definition.fields, definition.forms?.[step]);
  return (id) => {
    const access = known.get(id) ?? "hide";
    return access === "edit" && fillable && !fillable.has(id) ? "see" : access;
  };
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
