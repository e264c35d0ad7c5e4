import { isContext, isList, type Value } from "../expression";
import { flatFields, MOST_ROWS, type Field, type StoredRow } from "./field";
import type { FieldKinds, ValueFacts } from "./fieldBehaviour";
import { keptAs } from "./keptAs";

/**
 * A list as line items keep it: each thing in it gives a row, by the names of the columns. What is called otherwise is
 * left out, what is not named is empty; nothing gives no rows.
 * @returns the rows, numbered from 1; or why they cannot be kept there
 */
export function keptRows(
  lines: Pick<Field, "name" | "fields">,
  v: Value,
  kinds: FieldKinds,
  facts: ValueFacts,
): { kept: StoredRow[] } | { why: string } {
  if (v === null) return { kept: [] };
  const things = isList(v) ? v : [v];
  if (things.length > MOST_ROWS) return { why: `“${lines.name}” takes at most ${MOST_ROWS} rows.` };
  // What is worked out comes by itself.
  const columns = flatFields(lines.fields ?? []).filter((c) => !c.worked);
  const kept: StoredRow[] = [];
  for (const [i, thing] of things.entries()) {
    if (!isContext(thing))
      return {
        why: `A row of “${lines.name}” is made of values by the names of its columns; row ${i + 1} is none.`,
      };
    const row: Record<string, string | boolean | null> & { "#": string } = { "#": String(i + 1) };
    for (const c of columns) {
      const r = keptAs(c, thing.get(c.name) ?? null, kinds, facts);
      if ("why" in r) return { why: `Row ${i + 1} of “${lines.name}”: ${r.why}` };
      row[c.id] = r.kept;
    }
    kept.push(row);
  }
  return { kept };
}
