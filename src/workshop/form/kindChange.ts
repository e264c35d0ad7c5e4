import {
  findField,
  holdsFields,
  isGroup,
  type Field,
  type FieldKind,
  type FieldProperties,
} from "@/core/form";
import type { Edit } from "@/core/route";
import { KINDS } from "@/kinds";

/**
 * Another kind for a field, as one edit: what the new kind has no use for is taken away, columns of a
 * table that becomes a plain field move out beside it.
 */
export function kindChange(fields: readonly Field[], field: Field, kind: FieldKind): Edit {
  const { has, links } = KINDS.fields[kind];
  const { has: had, links: led } = KINDS.fields[field.kind];
  const linked = links?.at(led?.registers(field) ?? []);
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
      options: optionsFor(field, has, had),
      ...(offers(has) ? {} : { among: null }),
      ...(offers(has) ? {} : { optionLabels: null }),
      register: linked?.register ?? null,
      registers: linked?.registers ?? null,
      ...(has.range === "number" ? {} : { total: null }),
      ...(has.range !== null && has.range === had.range ? {} : { min: null, max: null }),
      ...(holds ? { worked: null, copied: null, fixed: null } : {}),
      ...(isGroup({ kind }) ? { needed: null } : { text: null }),
      // A condition is over what is picked, which is something else now, but for one text or several of a column.
      ...(offers(has) && field.among ? {} : { offered: null }),
      ...(kind === "text block" ? { checks: null } : { picture: null }),
      ...(isGroup({ kind }) ? { worked: null, copied: null, fixed: null } : {}),
    },
  });
  return { op: "batch", edits };
}

/** What of its choices, or endings, the new kind has use for. */
function optionsFor(field: Field, has: FieldProperties, had: FieldProperties): string[] | null {
  if (offers(has) && field.among) return null;
  if (offers(has)) return (offers(had) && field.options) || ["first choice", "second choice"];
  return (has.options === "endings" && had.options === "endings" && field.options) || null;
}

/** Whether one or several of given texts are chosen in it. */
const offers = ({ options }: FieldProperties): boolean =>
  options === "values" || options === "several values";
