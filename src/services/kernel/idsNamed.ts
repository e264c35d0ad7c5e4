import { flatFields, type Field, type FormData, type Registers, type StoredRecord } from "@/core/form";
import { KINDS } from "@/kinds";

/** What ids of values may be of, beside people and records. */
type Sort = "file" | "request";

/** The ids a value of a field is, which may be several. */
export const idsIn = (f: Pick<Field, "kind">, v: unknown): string[] => {
  if (typeof v !== "string" || v === "") return [];
  return KINDS.fields[f.kind].many?.texts(v) ?? [v];
};
const isOf = (of: Sort, f: Pick<Field, "kind">): boolean => KINDS.fields[f.kind].idOf === of;

/** Ids of all files, or numbers of all requests, that a form's values name. */
export function idsNamed(of: Sort, fields: readonly Field[], ...datas: readonly FormData[]): string[] {
  const out: string[] = [];
  for (const f of flatFields(fields))
    for (const data of datas) {
      const v = data[f.id];
      if (isOf(of, f)) out.push(...idsIn(f, v));
      else if (f.kind === "lines" && Array.isArray(v))
        for (const c of (f.fields ?? []).filter((x) => isOf(of, x)))
          out.push(...v.flatMap((row) => idsIn(c, row[c.id])));
    }
  return [...new Set(out)];
}

/** The same of records, by register and id. */
export function idsOfRecords(
  of: Sort,
  registers: Registers,
  records: Readonly<Record<string, Readonly<Record<string, StoredRecord>>>>,
): string[] {
  return Object.entries(records).flatMap(([key, rows]) => {
    const columns = (registers[key]?.columns ?? []).filter((c) => isOf(of, c));
    if (columns.length === 0) return [];
    return Object.values(rows).flatMap((r) => columns.flatMap((c) => idsIn(c, r[c.id])));
  });
}
