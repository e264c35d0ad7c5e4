import type { RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import { cappedCount, mostCounted } from "../cappedCount";
import type { Db } from "../pool";
import { wordsLike } from "./indexes";
import {
  behind,
  fits,
  orderOf,
  orderSql,
  placeOf,
  turned,
  type RecordOrder,
  type RecordPlace,
  type SortBy,
} from "./recordPlace";
import { quoted, selectRecord, tableOf, type RecordRow } from "./names";
import { likePart } from "../likePart";

export interface RecordSearch {
  search: string;
  filters: { column: string; value: string }[];
  /** A condition over the columns as SQL; `bind` puts a value among the parameters. */
  where?: (bind: (value: unknown) => string) => string;
  /** In order of their weight. */
  sort: readonly SortBy[];
  offset: number;
  limit: number;
  /** Behind a record, or before one, instead of by the offset; a place that does not fit the order counts as none. */
  from?: { place: RecordPlace; back: boolean };
}

/** One page of a list. */
export interface RecordsFound {
  rows: RecordRow[];
  /** How many there are, counted up to one more than `mostCounted`. */
  total: number;
  /** Where the page before ends and the next begins; null where there is none, or it is come to by its number. */
  earlier: RecordPlace | null;
  next: RecordPlace | null;
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
    const like = likePart(q.search.trim());
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
  return where.length > 0 ? `where ${where.map((w) => `(${w})`).join(" and ")}` : "";
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

/** The titles of what links point at, and the names of files, as `column#`. */
const titlesOf = (shape: RegisterShape, registers: Readonly<Record<string, RegisterShape>>): string[] =>
  shape.columns.flatMap((c) => {
    const title = COLUMNS[c.kind].called?.(`t.${quoted(c.id)}`) ?? titleOfLink(c, registers);
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
): Promise<RecordsFound> {
  const values: unknown[] = [];
  const condition = conditionOf(shape, q, whole, (v) => `$${values.push(v)}`);
  const most = mostCounted(q.search);
  const total = await cappedCount(db, `from ${tableOf(shape.key)} t ${condition}`, values, most);
  const columns = [selectRecord(shape), ...titlesOf(shape, registers)].join(", ");
  const page = async (where: string, bound: readonly unknown[], by: RecordOrder, limit: number, offset = 0) =>
    (
      await db.query<RecordRow>(
        `
          select ${columns}
          from ${tableOf(shape.key)} t ${where}
          order by ${orderSql(by)}
          limit ${limit}
          offset ${offset}
        `,
        [...bound],
      )
    ).rows;
  const order = orderOf(shape, q.sort);
  const placed = (r: RecordRow | undefined) => (r ? placeOf(shape, order, r) : null);
  if (!q.from || !fits(shape, order, q.from.place)) {
    const rows = q.offset < most ? await page(condition, values, order, q.limit, q.offset) : [];
    const more = total > most ? rows.length === q.limit : q.offset + rows.length < total;
    return { rows, total, earlier: null, next: more ? placed(rows.at(-1)) : null };
  }
  const { place, back } = q.from;
  const way = back ? turned(order) : order;
  const found: RecordRow[] = [];
  // One more than is shown tells whether there are more.
  for (const part of behind(shape, way, place)) {
    if (found.length > q.limit) break;
    const bound = [...values];
    const where = part((v) => `$${bound.push(v)}`);
    const whole = condition ? `${condition} and ${where}` : `where ${where}`;
    found.push(...(await page(whole, bound, way, q.limit + 1 - found.length)));
  }
  const more = found.length > q.limit;
  const rows = back ? found.slice(0, q.limit).reverse() : found.slice(0, q.limit);
  return {
    rows,
    total,
    earlier: !back || more ? placed(rows[0]) : null,
    next: back || more ? placed(rows.at(-1)) : null,
  };
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
        order by ${orderSql(orderOf(shape, q.sort))}
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
