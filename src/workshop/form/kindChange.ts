import { findField, holdsFields, type Field, type FieldKind } from "@/core/form";
import type { Edit } from "@/core/route";

const BORDERED: FieldKind[] = ["number", "money", "date"];

/**
 * Another kind for a field, as one edit: what the new kind has no use for is taken away, columns of a
 * table that becomes a plain field move out beside it.
 */
export function kindChange(fields: readonly Field[], field: Field, kind: FieldKind): Edit {
  const edits: Edit[] = [];
  const holds = holdsFields(kind);
  if (!holds && field.fields?.length) {
    const parent = findField(fields, field.id)?.parents.at(-1)?.id ?? null;
    let after = field.id;
    for (const c of field.fields) {
      edits.push({ op: "field.move", id: c.id, parent, after });
      after = c.id;
    }
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
