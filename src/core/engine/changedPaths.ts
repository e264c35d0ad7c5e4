import type { FormData, Stored, StoredRow } from "../form";

const rowsOf = (v: Stored | undefined): readonly StoredRow[] => (Array.isArray(v) ? v : []);

/** What differs: fields, columns of line items (`lines/price`), and line items whose rows came, went or changed places. */
export function changedPaths(before: FormData, changed: FormData): string[] {
  return Object.entries(changed).flatMap(([id, v]) => {
    const old = before[id];
    if (!Array.isArray(v) && !Array.isArray(old)) return (old ?? null) === (v ?? null) ? [] : [id];
    const [was, is] = [rowsOf(old), rowsOf(v)];
    const out = new Set<string>();
    if (was.map((r) => r["#"]).join("\n") !== is.map((r) => r["#"]).join("\n")) out.add(id);
    const known = new Map(was.map((r) => [r["#"], r]));
    for (const row of is) {
      const then = known.get(row["#"]);
      for (const column of then ? new Set([...Object.keys(then), ...Object.keys(row)]) : [])
        if ((then![column] ?? null) !== (row[column] ?? null)) out.add(`${id}/${column}`);
    }
    return [...out];
  });
}
