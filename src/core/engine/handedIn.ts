import { findField, keptAs, keptRows, takesIn, type FormData } from "../form";
import type { StoredValue } from "../kinds";
import type { EngineFacts } from "./facts";
import type { CompiledRelease } from "./release";
import { valueOf } from "./storedValue";

/**
 * What a step of another process hands over, as the form of this one keeps it.
 * @param values by field
 * @param facts with the records the values lead to
 * @returns the data, or why it cannot be taken in
 */
export function handedIn(
  release: CompiledRelease,
  values: readonly (readonly [string, StoredValue])[],
  facts: EngineFacts,
): { data: FormData } | { why: string } {
  const data: Record<string, FormData[string]> = {};
  for (const [id, value] of values) {
    const field = findField(release.definition.fields, id)?.field;
    if (!field || !takesIn(field))
      return { why: `“${release.definition.name}” takes no “${field?.name ?? id}” any more.` };
    const read = valueOf(value, facts, () => null);
    const { fields } = release.kinds;
    const kept =
      field.kind === "lines" ? keptRows(field, read, fields, facts) : keptAs(field, read, fields, facts);
    // Why exactly may tell of what is hidden from whoever reads that it is stuck.
    if ("why" in kept)
      return { why: `“${field.name}” (${field.kind}) cannot take what is handed over for it.` };
    data[id] = kept.kept;
  }
  return { data };
}
