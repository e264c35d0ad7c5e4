import { walkFields, type Field } from "@/core/form";
import { accessAt, type ProcessDefinition } from "@/core/route";

/** Which rows of a sheet are looked at. Of a step: by what may be done with them there. */
export type FieldFilter =
  { by: "needed" | "rules" | "worked" | "personal" | "problems" } | { by: "edit" | "hide"; step: string };

/** Whether a row is among them. @param problems ids of fields something is wrong with */
function matches(
  { by, ...of }: FieldFilter,
  f: Field,
  access: ReturnType<typeof accessAt> | null,
  problems: ReadonlySet<string>,
): boolean {
  switch (by) {
    case "needed":
      return f.needed !== undefined;
    case "rules":
      return (
        [f.shown, f.offered, f.min, f.max].some((x) => x !== undefined) ||
        (f.checks?.length ?? 0) > 0 ||
        (f.needed !== undefined && f.needed !== "true")
      );
    case "worked":
      return f.worked !== undefined || f.starting !== undefined;
    case "personal":
      return f.personal === true;
    case "problems":
      return problems.has(f.id);
    case "edit":
    case "hide":
      return "step" in of && access?.(f.id) === by;
  }
}

export interface Filtered {
  /** Ids of the rows to show: those that match, and what they stand in. */
  shown: ReadonlySet<string>;
  /** How many match. */
  count: number;
}

/**
 * The rows that are looked at.
 * @param text a part of the name or the label; empty for any
 * @param filter null for any
 */
export function filteredFields(
  definition: ProcessDefinition,
  { text, filter }: { text: string; filter: FieldFilter | null },
  problems: ReadonlySet<string>,
): Filtered {
  const part = text.trim().toLowerCase();
  const access = filter && "step" in filter ? accessAt(definition, filter.step) : null;
  const shown = new Set<string>();
  let count = 0;
  walkFields(definition.fields, (f, parents) => {
    const called = [f.name, f.label ?? ""].some((x) => x.toLowerCase().includes(part));
    if (!called || (filter && !matches(filter, f, access, problems))) return;
    count++;
    for (const x of [...parents, f]) shown.add(x.id);
  });
  return { shown, count };
}
