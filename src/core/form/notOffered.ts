import type { AccessOf } from "./access";
import type { FieldKinds } from "./fieldBehaviour";
import { findField, isGroup, labelOf, type Field, type FormData } from "./field";
import type { FormProblem } from "./formProblem";

/**
 * Values that are none of those that were offered, where whoever has the task may edit the field. One that stood there
 * before is none, either.
 */
export function notOffered(
  fields: readonly Field[],
  offers: Readonly<Record<string, readonly string[]>> | undefined,
  data: FormData,
  access: AccessOf,
  kinds: FieldKinds,
): FormProblem[] {
  const out: FormProblem[] = [];
  for (const [id, values] of Object.entries(offers ?? {})) {
    const found = findField(fields, id);
    if (!found) continue;
    const { field, parents } = found;
    if ([field, ...parents.filter((p) => !isGroup(p))].some((f) => access(f.id) !== "edit")) continue;
    const allowed = new Set(values);
    const texts = (v: string) => kinds[field.kind].many?.texts(v) ?? [v];
    const wrong = (v: unknown) => typeof v === "string" && v !== "" && texts(v).some((x) => !allowed.has(x));
    const table = parents.find((p) => p.kind === "lines");
    if (!table) {
      if (wrong(data[id])) out.push({ code: "not-offered", path: id, data: { field: labelOf(field) } });
      continue;
    }
    const rows = data[table.id];
    for (const [i, row] of (Array.isArray(rows) ? rows : []).entries())
      if (wrong(row[id]))
        out.push({
          code: "not-offered",
          path: `${table.id}/${row["#"]}/${id}`,
          data: { field: labelOf(field), row: i + 1 },
        });
  }
  return out;
}
