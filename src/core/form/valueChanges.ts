import type { AccessOf } from "./access";
import { flatFields, walkFields, type Field, type FormData, type Stored, type StoredRow } from "./field";

/** One value that changed: of a field, of a cell, or a whole row that came or went. Rows count from 1. */
export type ValueChange =
  | { what: "value"; field: Field; row?: { of: Field; number: number }; from: Stored; to: Stored }
  | { what: "row added" | "row removed"; field: Field; number: number };

const rowsOf = (v: Stored | undefined): readonly StoredRow[] => (Array.isArray(v) ? v : []);
const isEmpty = (v: Stored | undefined): boolean => v === undefined || v === null || v === "";
const same = (a: Stored | undefined, b: Stored | undefined): boolean => a === b || (isEmpty(a) && isEmpty(b));

/**
 * What some values changed of those before, in the order of the sheet, as far as a reader may see them: nothing of a
 * field that is hidden, or stands in something hidden.
 */
export function valueChanges(
  fields: readonly Field[],
  before: FormData,
  set: FormData,
  access: AccessOf,
): ValueChange[] {
  const seen = new Set<string>();
  walkFields(fields, (f, parents) => {
    if (![f, ...parents].some((x) => access(x.id) === "hide")) seen.add(f.id);
  });
  return flatFields(fields).flatMap((f): ValueChange[] => {
    if (!seen.has(f.id) || !Object.hasOwn(set, f.id)) return [];
    const [was, is] = [before[f.id], set[f.id]];
    if (f.kind === "lines") return rowChanges(f, rowsOf(was), rowsOf(is), seen);
    return same(was, is) ? [] : [{ what: "value", field: f, from: was ?? null, to: is ?? null }];
  });
}

function rowChanges(
  f: Field,
  was: readonly StoredRow[],
  is: readonly StoredRow[],
  seen: ReadonlySet<string>,
): ValueChange[] {
  const old = new Map(was.map((r) => [r["#"], r]));
  const now = new Set(is.map((r) => r["#"]));
  const columns = (f.fields ?? []).filter((c) => seen.has(c.id));
  const gone = was.flatMap((r, i): ValueChange[] =>
    now.has(r["#"]) ? [] : [{ what: "row removed", field: f, number: i + 1 }],
  );
  return [
    ...gone,
    ...is.flatMap((row, i): ValueChange[] => {
      const then = old.get(row["#"]);
      if (!then) return [{ what: "row added", field: f, number: i + 1 }];
      return columns
        .filter((c) => !same(then[c.id], row[c.id]))
        .map((c) => ({
          what: "value",
          field: c,
          row: { of: f, number: i + 1 },
          from: then[c.id] ?? null,
          to: row[c.id] ?? null,
        }));
    }),
  ];
}
