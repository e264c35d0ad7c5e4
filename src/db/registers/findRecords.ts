import type { RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import { cappedCount, mostCounted } from "../cappedCount";
import type { Db } from "../pool";
import { wordsLike } from "./indexes";
import { quoted, selectRecord, tableOf, type RecordRow } from "./names";

export interface RecordSearch {
  search: string;
  filters: { column: string; value: string }[];
  /** A condition over the columns as SQL; `bind` puts a value among the parameters. */
  where?: (bind: (value: unknown) => string) => string;
  /** In order of their weight. */
  sort: readonly { column: string; descending: boolean }[];
  offset: number;
  limit: number;
}

/** By one column it is the order of its index, from either end: what is empty stands last, or first. */
function orderOf(shape: RegisterShape, sort: RecordSearch["sort"]): string {
  const by = sort.filter((s) => shape.columns.some((c) => c.id === s.column));
  const last = by.at(-1);
  if (!last) return "t.id";
  const terms = by.map(
    (s) => `t.${quoted(s.column)} ${s.descending ? "desc nulls last" : "asc nulls first"}`,
  );
  return [...terms, last.descending ? "t.id desc" : "t.id"].join(", ");
}

/** What a search asks for, as SQL over alias `t`; empty where it asks for everything. */
export function conditionOf(
  shape: RegisterShape,
  q: Pick<RecordSearch, "search" | "filters" | "where">,
  whole: RegisterShape,
  bind: (value: unknown) => string,
): string {
  const where: string[] = [];
  if (q.search.trim()) {
    const like = `%${q.search.trim().replace(/[\\%_]/g, "\\$&")}%`;
    // Of a register with no text that is seen nothing is found by a word.
    where.push(wordsLike(shape, whole, bind(like)) ?? "false");
  }
  for (const f of q.filters) {
    const c = shape.columns.find((x) => x.id === f.column);
    if (!c) continue;
    const name = `t.${quoted(c.id)}`;
    if (f.value === "") where.push(`${name} is null`);
    else where.push(COLUMNS[c.kind].filter(name, f.value, bind));
  }
  if (q.where) where.push(q.where(bind));
  return where.length > 0 ? `where ${where.join(" and ")}` : "";
}

/** What a link points at, by the first column of its name; null for what is no link. */
export function titleOfLink(
  c: RegisterShape["columns"][number],
  registers: Readonly<Record<string, RegisterShape>>,
): string | null {
  const { link } = COLUMNS[c.kind];
  const titles = (link?.registers(c) ?? []).flatMap((key) => {
    const title = registers[key]?.title[0];
    if (title === undefined) return [];
    const id = link!.idIn(`t.${quoted(c.id)}`, key);
    return [`(select l.${quoted(title)}::text from ${tableOf(key)} l where l.id = ${id})`];
  });
  if (titles.length === 0) return null;
  return titles.length === 1 ? titles[0]! : `coalesce(${titles.join(", ")})`;
}

/** The titles of what links point at, as `column#`. */
const titlesOf = (shape: RegisterShape, registers: Readonly<Record<string, RegisterShape>>): string[] =>
  shape.columns.flatMap((c) => {
    const title = titleOfLink(c, registers);
    return title ? [`${title} as "${c.id}#"`] : [];
  });

/**
 * One page of a register with the count of all that match; links come with the title of what they point at.
 * @param whole the register with all its columns, where `shape` has only those somebody sees
 */
export async function findRecords(
  db: Db,
  shape: RegisterShape,
  registers: Readonly<Record<string, RegisterShape>>,
  q: RecordSearch,
  whole: RegisterShape = shape,
): Promise<{ rows: RecordRow[]; total: number }> {
  const values: unknown[] = [];
  const bind = (v: unknown) => `$${values.push(v)}`;
  const condition = conditionOf(shape, q, whole, bind);
  const most = mostCounted(q.search);
  const total = await cappedCount(db, `from ${tableOf(shape.key)} t ${condition}`, values, most);
  if (q.offset >= most) return { rows: [], total };
  const rows = (
    await db.query(
      `
        select ${[selectRecord(shape), ...titlesOf(shape, registers)].join(", ")}
        from ${tableOf(shape.key)} t ${condition}
        order by ${orderOf(shape, q.sort)}
        limit ${bind(q.limit)}
        offset ${bind(q.offset)}
      `,
      values,
    )
  ).rows;
  return { rows, total };
}

/**
 * All records that match, lot by lot, as they were when it began.
 * @param db a connection in no transaction; one is opened for as long as it is read
 */
export async function* eachRecord(
  db: Db,
  shape: RegisterShape,
  registers: Readonly<Record<string, RegisterShape>>,
  q: Omit<RecordSearch, "offset" | "limit">,
  whole: RegisterShape,
  lot: number,
): AsyncGenerator<RecordRow[]> {
  const values: unknown[] = [];
  const condition = conditionOf(shape, q, whole, (v) => `$${values.push(v)}`);
  await db.query("begin transaction isolation level repeatable read, read only");
  try {
    await db.query(
      `
        declare found no scroll cursor for
        select ${[selectRecord(shape), ...titlesOf(shape, registers)].join(", ")}
        from ${tableOf(shape.key)} t ${condition}
        order by ${orderOf(shape, q.sort)}
      `,
      values,
    );
    for (;;) {
      const { rows } = await db.query(`fetch ${lot} from found`);
      if (rows.length === 0) return;
      yield rows;
    }
  } finally {
    await db.query("rollback").catch(() => undefined);
  }
}

/** How many records there are, counted up to `MOST_COUNTED`. */
export const countRecords = (db: Db, key: string): Promise<number> =>
  cappedCount(db, `from ${tableOf(key)}`, []);
