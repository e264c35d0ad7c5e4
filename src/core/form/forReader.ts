import { nameUses, type Node } from "../expression";
import type { Access, AccessOf } from "./access";
import type { FormResult } from "./evaluate";
import { findField, walkFields, type Field, type FormData } from "./field";
import { withoutHidden, withoutHiddenFields } from "./merge";
import type { FieldPlace, PreparedForm } from "./prepare";

/** A form as one person may have it: everything hidden from them is gone, formulas included. */
export interface ReaderForm {
  form: PreparedForm;
  data: FormData;
  access: Record<string, Access>;
}

/**
 * Cuts a form down to what a person may see. A formula that reads a hidden field would give it away, or
 * come out wrong without it; it is replaced by what the server found it to be, and no longer recalculates.
 */
export function formForReader(
  form: PreparedForm,
  result: Pick<FormResult, "data" | "shown" | "needed">,
  access: AccessOf,
): ReaderForm {
  const hidden = new Set<string>();
  const all: Record<string, Access> = {};
  walkFields(form.fields, (f) => {
    if (access(f.id) === "hide") hidden.add(f.name);
    else all[f.id] = access(f.id);
  });
  const readsHidden = (ast: Node) =>
    hidden.size > 0 && nameUses(ast).some((u) => u.path.some((p) => hidden.has(p)));
  const frozen = new Set<string>();
  const programs: Record<string, Partial<Record<FieldPlace, Node>>> = {};
  for (const [id, places] of Object.entries(form.programs)) {
    if (!(id in all)) continue;
    const kept: Partial<Record<FieldPlace, Node>> = {};
    for (const [place, ast] of Object.entries(places) as [FieldPlace, Node][]) {
      if (!readsHidden(ast)) kept[place] = ast;
      else if (place === "worked") {
        frozen.add(id);
        if (all[id] === "edit") all[id] = "see";
      } else if (place === "shown" || place === "needed") {
        const inLines = findField(form.fields, id)?.parents.some((p) => p.kind === "lines");
        const value = inLines ? true : (place === "shown" ? result.shown : result.needed).has(id);
        kept[place] = { k: "bool", value, from: 0, to: 0 };
      }
    }
    programs[id] = kept;
  }
  const clean = (fields: readonly Field[]): Field[] =>
    fields.map((f) => {
      const own = programs[f.id] ?? {};
      const out: Field = { ...f };
      if (frozen.has(f.id)) delete out.worked;
      // The text of a formula over hidden fields is itself something to keep back.
      for (const p of ["shown", "needed"] as const)
        if (f[p] && own[p]?.k === "bool") out[p] = String((own[p] as { value: boolean }).value);
      // Nor what such a check would say: it may tell what is hidden, and the server says it where it is due.
      if (f.checks) out.checks = f.checks.map((c, i) => (own[`check ${i}`] ? c : { must: "true", say: "" }));
      if (f.fields) out.fields = clean(f.fields);
      return out;
    });
  return {
    form: { fields: clean(withoutHiddenFields(form.fields, access)), programs },
    data: withoutHidden(form.fields, result.data, access),
    access: all,
  };
}
