import { holdsFields, type Field, type FieldKind } from "@/core/form";
import type { Edit, ProcessDefinition } from "@/core/process";

const BORDERED: FieldKind[] = ["number", "money", "date"];

/**
 * Another kind for a field, as one edit: what the new kind has no use for is taken away, columns of a
 * table that becomes a plain field move out beside it.
 */
export function kindChange(definition: ProcessDefinition, field: Field, kind: FieldKind): Edit {
  const edits: Edit[] = [];
  const holds = holdsFields(kind);
  if (!holds && field.fields?.length) {
    const place = locate(definition.fields, field.id);
    field.fields.forEach((c, i) =>
      edits.push({ op: "field.move", id: c.id, parent: place.parent, index: place.index + 1 + i }),
    );
  }
  edits.push({
    op: "field.set",
    id: field.id,
    patch: {
      kind,
      options:
        kind === "choice"
          ? (field.kind === "choice" && field.options) || ["first choice", "second choice"]
          : null,
      register: kind === "look-up" ? (field.register ?? null) : null,
      ...(BORDERED.includes(kind) &&
      BORDERED.includes(field.kind) &&
      (kind === "date") === (field.kind === "date")
        ? {}
        : { min: null, max: null }),
      ...(holds ? { worked: null } : {}),
      ...(kind === "page" || kind === "section" ? { needed: null, checks: null } : {}),
    },
  });
  return { op: "batch", edits };
}

function locate(
  fields: readonly Field[],
  id: string,
  parent: string | null = null,
): { parent: string | null; index: number } {
  const index = fields.findIndex((f) => f.id === id);
  if (index >= 0) return { parent, index };
  for (const f of fields) {
    const inside = f.fields ? locate(f.fields, id, f.id) : null;
    if (inside && inside.index >= 0) return inside;
  }
  return { parent: null, index: -1 };
}
