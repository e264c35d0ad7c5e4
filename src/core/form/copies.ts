import type { AccessOf } from "./access";
import type { Field, FormData, Stored, StoredRow } from "./field";
import type { FormReads } from "./reads";

const isEmpty = (v: Stored | undefined): boolean => v === undefined || v === null || v === "";
const rowsOf = (v: Stored | undefined): readonly StoredRow[] => (Array.isArray(v) ? v : []);

/** Rows by their ids, kept as long as the list itself. */
const indexed = new WeakMap<readonly StoredRow[], ReadonlyMap<string, StoredRow>>();
function byId(rows: readonly StoredRow[]): ReadonlyMap<string, StoredRow> {
  let known = indexed.get(rows);
  if (!known) indexed.set(rows, (known = new Map(rows.map((r) => [r["#"], r]))));
  return known;
}

/** Whether a worked-out value does not simply follow what it is worked out from. */
export const isKeptValue = (f: Pick<Field, "worked" | "copied" | "fixed">): boolean =>
  Boolean(f.worked && (f.copied || f.fixed));

/**
 * Which copied values stay as they are kept, and which are taken anew: those whose sources were filled in with something
 * else than before, and those never taken, by somebody who may fill in what they are copied from. Nobody else's looking
 * or answering moves an amount that was agreed on. What is fixed stays once it is kept, also where it is empty. What is
 * read anew by its name does not stay, and takes nothing else along.
 */
export class Copies {
  private readonly moved = new Map<string, boolean>();

  /** @param before what is kept of the request, without what is being filled in */
  constructor(
    private readonly reads: FormReads,
    private readonly typed: FormData,
    private readonly before: FormData,
    private readonly access: AccessOf,
    /** Ids of what is read anew. */
    readonly anew?: ReadonlySet<string>,
  ) {}

  /** Whether a worked-out field stays as it is kept; `row` is the row a column's cell stands in. */
  stays(f: Field, row?: StoredRow): boolean {
    if (!isKeptValue(f) || this.anew?.has(f.id)) return false;
    if (f.fixed) return this.isKept(f, row);
    const sources = [...this.reads.of(f.id, "worked").filledIn];
    const fillsIn = sources.length > 0 ? sources : [f.id];
    if (!fillsIn.some((id) => this.reads.mayEdit(id, this.access))) return true;
    if (isEmpty((row ?? this.typed)[f.id])) return false;
    return !sources.some((id) => this.differs(id, f, row));
  }

  private isKept(f: Field, row?: StoredRow): boolean {
    const table = this.reads.tableOf(f.id);
    const of = row && table !== null ? this.rowBefore(table, row) : this.before;
    return of !== undefined && Object.hasOwn(of, f.id);
  }

  /** The row as it is kept. */
  rowBefore(table: string, row: StoredRow): StoredRow | undefined {
    const rows = this.before[table];
    return Array.isArray(rows) ? byId(rows).get(row["#"]) : undefined;
  }

  private differs(source: string, f: Field, row: StoredRow | undefined): boolean {
    const table = this.reads.tableOf(source);
    if (row && table !== null && table === this.reads.tableOf(f.id)) {
      const was = this.rowBefore(table, row);
      return !was || (was[source] ?? null) !== (row[source] ?? null);
    }
    let moved = this.moved.get(source);
    if (moved === undefined) {
      const told = (d: FormData) =>
        table === null ? d[source] : rowsOf(d[table]).map((r) => [r["#"], r[source] ?? null]);
      const same = (v: unknown) => JSON.stringify(v === "" ? null : (v ?? null));
      this.moved.set(source, (moved = same(told(this.typed)) !== same(told(this.before))));
    }
    return moved;
  }
}
