import { flatFields, type Field, type FormData, type Stored, type StoredRow } from "./field";

/** One value that two people changed from the same: what this person typed, and what it is now. */
export interface Clash {
  field: string;
  row?: string;
  column?: string;
  mine: Stored;
  theirs: Stored;
}

/** What became of what somebody typed over values that changed meanwhile. */
export interface Rebased {
  data: FormData;
  /** Fields and columns that changed meanwhile, by `field` or `field/column`. */
  changed: string[];
  /** Values both changed; what was typed is kept, and the other shown. */
  clashes: Clash[];
}

/**
 * Puts what somebody typed over `base` onto what the values are now: field by field, of line items row by row and cell
 * by cell. What only one side changed is taken from that side; rows are told by their "#".
 */
export function rebase(fields: readonly Field[], base: FormData, now: FormData, typed: FormData): Rebased {
  const out: Record<string, Stored> = { ...now };
  const changed = new Set<string>();
  const clashes: Clash[] = [];
  for (const f of flatFields(fields)) {
    if (f.kind === "lines") {
      out[f.id] = rebasedRows(f, rows(base[f.id]), rows(now[f.id]), rows(typed[f.id]), changed, clashes);
      continue;
    }
    const [b, n, t] = [single(base[f.id]), single(now[f.id]), single(typed[f.id])];
    if (b !== n) changed.add(f.id);
    out[f.id] = t === b ? n : t;
    if (t !== b && n !== b && t !== n && !f.worked) clashes.push({ field: f.id, mine: t, theirs: n });
  }
  return { data: out, changed: [...changed], clashes };
}

const rows = (v: Stored | undefined): readonly StoredRow[] => (Array.isArray(v) ? v : []);
const single = (v: Stored | undefined): string | boolean | null => (Array.isArray(v) ? null : (v ?? null));

function rebasedRows(
  f: Field,
  base: readonly StoredRow[],
  now: readonly StoredRow[],
  typed: readonly StoredRow[],
  changed: Set<string>,
  clashes: Clash[],
): StoredRow[] {
  const [was, is] = [byId(base), byId(now)];
  const mine = byId(typed);
  const columns = f.fields ?? [];
  const differ = (a: StoredRow, b: StoredRow) =>
    columns.filter((c) => !c.worked && single(a[c.id]) !== single(b[c.id]));
  const taken = new Set([...was.keys(), ...is.keys(), ...mine.keys()]);
  const out: StoredRow[] = [];
  for (const row of typed) {
    const [b, n] = [was.get(row["#"]), is.get(row["#"])];
    if (!b) {
      // Both added a row under one id: they are two rows all the same.
      out.push(n ? { ...row, "#": freeId(taken) } : row);
      continue;
    }
    if (!n) {
      if (differ(b, row).length === 0) continue;
      // Taken away by the other, changed here: kept, and shown.
      clashes.push({ field: f.id, row: row["#"], mine: row["#"], theirs: null });
      out.push(row);
      continue;
    }
    const merged: StoredRow = { ...n };
    for (const c of columns) {
      const [x, y, z] = [single(b[c.id]), single(n[c.id]), single(row[c.id])];
      merged[c.id] = z === x ? y : z;
      if (z !== x && y !== x && z !== y && !c.worked)
        clashes.push({ field: f.id, row: row["#"], column: c.id, mine: z, theirs: y });
    }
    out.push(merged);
  }
  for (const row of now) {
    const b = was.get(row["#"]);
    if (mine.has(row["#"]) && b) continue;
    // Added by the other; or taken away here while the other changed it: it is there, and shown.
    if (!b) out.push(row);
    else if (differ(b, row).length > 0) {
      clashes.push({ field: f.id, row: row["#"], mine: null, theirs: row["#"] });
      out.push(row);
    }
  }
  if (base.map((r) => r["#"]).join("\n") !== now.map((r) => r["#"]).join("\n")) changed.add(f.id);
  for (const row of now)
    for (const c of columns) {
      const b = was.get(row["#"]);
      if (b && single(b[c.id]) !== single(row[c.id])) changed.add(`${f.id}/${c.id}`);
    }
  return out;
}

const byId = (all: readonly StoredRow[]) => new Map(all.map((r) => [r["#"], r]));
function freeId(taken: Set<string>): string {
  let n = 1;
  while (taken.has(`also${n}`)) n++;
  taken.add(`also${n}`);
  return `also${n}`;
}
