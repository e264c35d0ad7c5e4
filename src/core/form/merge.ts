import type { AccessOf } from "./access";
import { flatFields, type Field, type FormData, type Stored, type StoredRow } from "./field";

/**
 * What may be kept of a form that came in: only fields the person may edit; all else stays as stored.
 * The server calls this before anything is evaluated, so that nothing slips in through a field
 * that was shown, hidden or worked out.
 */
export function mergeEdits(
  fields: readonly Field[],
  stored: FormData,
  incoming: FormData,
  access: AccessOf,
): FormData {
  const out: Record<string, Stored> = { ...stored };
  for (const f of flatFields(fields)) {
    if (f.worked || access(f.id) !== "edit" || !(f.id in incoming)) continue;
    const next = incoming[f.id]!;
    if (f.kind === "lines") out[f.id] = mergeRows(f, stored[f.id], next, access);
    else out[f.id] = Array.isArray(next) ? null : next;
  }
  return out;
}

function mergeRows(f: Field, stored: Stored | undefined, incoming: Stored, access: AccessOf): StoredRow[] {
  if (!Array.isArray(incoming)) return [];
  const before = new Map((Array.isArray(stored) ? stored : []).map((r) => [r["#"], r]));
  const taken = new Set(incoming.map((r) => r["#"]));
  const seen = new Set<string>();
  let last = 0;
  return incoming.map((row) => {
    let id = row["#"];
    // A second row of one id is a new row: it has nothing of what is kept of the first.
    if (seen.has(id)) {
      while (taken.has((id = `new${++last}`)));
      taken.add(id);
    }
    seen.add(id);
    const old = id === row["#"] ? before.get(id) : undefined;
    const out: StoredRow = { "#": id };
    for (const c of f.fields ?? []) {
      const editable = !c.worked && access(c.id) === "edit";
      const v = (editable ? row[c.id] : old?.[c.id]) ?? null;
      out[c.id] = Array.isArray(v) ? null : v;
    }
    return out;
  });
}

/** Data with the values of hidden fields taken out: nothing a person may not see leaves the server. */
export function withoutHidden(fields: readonly Field[], data: FormData, access: AccessOf): FormData {
  const out: Record<string, Stored> = {};
  for (const f of flatFields(fields)) {
    if (access(f.id) === "hide" || !(f.id in data)) continue;
    const v = data[f.id]!;
    out[f.id] = Array.isArray(v)
      ? v.map((row) => {
          const kept: StoredRow = { "#": row["#"] };
          for (const c of f.fields ?? []) if (access(c.id) !== "hide") kept[c.id] = row[c.id] ?? null;
          return kept;
        })
      : v;
  }
  return out;
}

/** The fields a person may see; formulas are cleaned apart (formForReader). */
export function withoutHiddenFields(fields: readonly Field[], access: AccessOf): Field[] {
  return fields
    .filter((f) => access(f.id) !== "hide")
    .map((f) => (f.fields ? { ...f, fields: withoutHiddenFields(f.fields, access) } : f));
}
