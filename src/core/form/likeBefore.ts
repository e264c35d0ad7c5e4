import type { AccessOf } from "./access";
import type { FieldKinds } from "./fieldBehaviour";
import { flatFields, type Field, type FormData, type Stored, type StoredRow } from "./field";

/**
 * What somebody would ask again of what they asked once: what they may fill in, as far as the form still has it and of
 * the same kind. Files are not asked again, since they belong to what they came with; nor is what was worked out.
 * @param then the fields as they were when it was asked
 */
export function likeBefore(
  fields: readonly Field[],
  then: readonly Field[],
  data: FormData,
  access: AccessOf,
  kinds: FieldKinds,
): FormData {
  const again = (now: readonly Field[], was: readonly Field[]): Field[] =>
    now.filter(
      (f) =>
        access(f.id) === "edit" &&
        !f.worked &&
        kinds[f.kind].idOf !== "file" &&
        was.some((x) => x.id === f.id && x.kind === f.kind && x.register === f.register),
    );
  const old = flatFields(then);
  const out: Record<string, Stored> = {};
  for (const f of again(flatFields(fields), old)) {
    const v = data[f.id];
    if (v === undefined || v === null || v === "") continue;
    if (!Array.isArray(v)) {
      out[f.id] = v;
      continue;
    }
    const columns = again(f.fields ?? [], old.find((x) => x.id === f.id)?.fields ?? []);
    out[f.id] = v.map((row) => {
      const kept: StoredRow = { "#": row["#"] };
      for (const c of columns) if (row[c.id] !== undefined) kept[c.id] = row[c.id]!;
      return kept;
    });
  }
  return out;
}
