import type { Reads } from "../expression";
import { fieldsRead, type Field } from "../form";
import type { FormulaPlace } from "../route";

/**
 * Ids of the fields and columns that a formula tells whoever reads what it comes to. A column may be read by its own
 * name, where something stands there for each of its rows.
 */
export function fieldsTold(f: FormulaPlace, reads: Reads, fields: readonly Field[]): string[] {
  const byName = f.inLists ? reads.references.flatMap((r) => f.declared(r.name) ?? []) : [];
  const columns = byName.flatMap((x) => (x.startsWith("field ") ? [x.slice("field ".length)] : []));
  return [...new Set([...fieldsRead(reads, fields), ...columns])];
}
