import type { Column, RegisterRights, RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import pg from "pg";
import { cappedCount, mostCounted } from "./cappedCount";
import { databaseUrl, type Db } from "./pool";

/** Register tables live in a schema of their own. Names are checked before they come near SQL, and quoted. */
export const quoted = (name: string): string => {
  if (!/^[a-z][a-z0-9_]{0,39}$/.test(name)) throw new Error(`not a table or column name: ${name}`);
  return `"${name}"`;
};
export const tableOf = (key: string): string => `register.${quoted(key)}`;

function columnSql(c: Column): string {
  const target = c.kind === "look-up" && c.register ? ` references ${tableOf(c.register)} (id)` : "";
  return `${quoted(c.id)} ${COLUMNS[c.kind].type}${target}${c.needed ? " not null" : ""}`;
}

/** Makes a register with nobody's records in it. @param rights who may see what of it */
export async function createRegister(db: Db, shape: RegisterShape, rights: RegisterRights): Promise<void> {
  await db.query("insert into register (key, definition, rights) values ($1, $2, $3)", [
    shape.key,
    JSON.stringify(shape),
    JSON.stringify(rights),
  ]);
  await db.query(
    `
      create table ${tableOf(shape.key)} (id bigint generated always as identity primary key, ${shape.columns.map(columnSql).join(", ")})
    `,
  );
  for (const c of shape.columns)
    if (c.kind === "look-up") await db.query(`create index on ${tableOf(shape.key)} (${quoted(c.id)})`);
  if (shape.key_column)
    await db.query(`create unique index on ${tableOf(shape.key)} (${quoted(shape.key_column)})`);
  for (const { name, on } of indexesOf(shape))
    await db.query(`create index ${name} on ${tableOf(shape.key)} ${on}`);
}

/** All that is searched of a record as one text: its index is over the same. Lines end between columns. */
function wordsOf(shape: RegisterShape, alias: string): string | null {
  const texts = shape.columns
    .filter((c) => COLUMNS[c.kind].searched)
    .map((c) => `coalesce(${alias}${quoted(c.id)}, '')`);
  return texts.length > 0 ? `(${texts.join(" || chr(10) || ")})` : null;
}

/**
 * Whether a text stands among the words of a record. Where somebody sees only some of the columns those are what is
 * searched; the words of all, which have an index, only narrow down which records are read for that.
 * @param like a parameter with the pattern
 */
function wordsLike(shape: RegisterShape, whole: RegisterShape, like: string): string | null {
  const [seen, all] = [wordsOf(shape, "t."), wordsOf(whole, "t.")];
  if (seen === null || all === null) return null;
  return seen === all ? `${all} ilike ${like}` : `${all} ilike ${like} and ${seen} ilike ${like}`;
}

/** The name an index is told by: the same columns, the same index. */
const indexName = (shape: RegisterShape, what: string): string =>
  quoted(`${shape.key}_${what}`.slice(0, 39).replace(/_+$/, ""));

/** The indexes that keep a register fast however long it gets: over its words, and for each column it is sorted by. */
function indexesOf(shape: RegisterShape): { name: string; on: string }[] {
  const words = wordsOf(shape, "");
  return [
    ...(words ? [{ name: indexName(shape, "words"), on: `using gin (${words} gin_trgm_ops)` }] : []),
    ...shape.columns.map((c, i) => ({
      name: indexName(shape, `by${i}_${c.id}`),
      on: `(${quoted(c.id)} desc nulls last, id desc)`,
    })),
  ];
}

/** Makes the indexes of registers made before there were any; nobody is kept from writing meanwhile. */
export async function indexOldRegisters(): Promise<number> {
  const client = new pg.Client({ connectionString: databaseUrl(), application_name: "cobble-step indexing" });
  await client.connect();
  try {
    await client.query("set statement_timeout = 0");
    const { rows } = await client.query(
      "select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'register'",
    );
    const there = new Set(rows.map((r) => `"${r.name}"`));
    let made = 0;
    for (const shape of await allRegisters(client))
      for (const { name, on } of indexesOf(shape)) {
        if (there.has(name)) continue;
        await client.query(`create index concurrently if not exists ${name} on ${tableOf(shape.key)} ${on}`);
        made++;
      }
    // An index over an expression is judged by figures that are gathered for it.
    if (made > 0) await client.query("analyze");
    return made;
  } finally {
    await client.end();
  }
}

export const allRegisters = async (db: Db): Promise<RegisterShape[]> =>
  (
    await db.query({
      name: "registers",
      text: "select definition from register order by definition->>'name'",
    })
  ).rows.map((r) => r.definition);

/** Who may see what of each register, by its key. */
export const allRights = async (db: Db): Promise<Record<string, RegisterRights>> =>
  Object.fromEntries(
    (await db.query({ name: "register-rights", text: "select key, rights from register" })).rows.map((r) => [
      r.key,
      r.rights,
    ]),
  );

/** The rights of one register, held until the transaction ends; null where there is no such register. */
export const holdRights = async (db: Db, key: string): Promise<RegisterRights | null> =>
  (await db.query("select rights from register where key = $1 for update", [key])).rows[0]?.rights ?? null;

export const setRights = (db: Db, key: string, rights: RegisterRights) =>
  db.query("update register set rights = $2 where key = $1", [key, JSON.stringify(rights)]);

export type RecordRow = Record<string, string | boolean | null> & { id: string };

/** Values as stored in forms: numbers as decimal text, dates ISO, links as id text. */
export function selectRecord(shape: RegisterShape, alias = "t"): string {
  const cols = shape.columns.map((c) => {
    const name = `${alias}.${quoted(c.id)}`;
    return `${COLUMNS[c.kind].read(name)} as ${quoted(c.id)}`;
  });
  return [`${alias}.id::text as id`, ...cols].join(", ");
}

export async function recordsByIds(
  db: Db,
  shape: RegisterShape,
  ids: readonly string[],
): Promise<RecordRow[]> {
  if (ids.length === 0) return [];
  return (
    await db.query(
      `select ${selectRecord(shape)} from ${tableOf(shape.key)} t where t.id = any($1::bigint[])`,
      [ids],
    )
  ).rows;
}

/** Records with a value in a column, at most so many. */
export async function recordsWith(
  db: Db,
  shape: RegisterShape,
  column: string,
  value: string,
  most: number,
): Promise<RecordRow[]> {
  if (!shape.columns.some((c) => c.id === column)) return [];
  return (
    await db.query(
      `select ${selectRecord(shape)} from ${tableOf(shape.key)} t where t.${quoted(column)} = $1 order by t.id limit $2`,
      [value, most],
    )
  ).rows;
}

/** All records, of the columns asked for that the register has; at most so many. */
export async function everyRecord(
  db: Db,
  shape: RegisterShape,
  columns: readonly string[],
  most: number,
): Promise<RecordRow[]> {
  const columnsHere = shape.columns.filter((c) => columns.includes(c.id));
  return (
    await db.query(
      `select ${selectRecord({ ...shape, columns: columnsHere })} from ${tableOf(shape.key)} t order by t.id limit $1`,
      [most],
    )
  ).rows;
}

/**
 * Records with a text in what names them, those that begin so first.
 * @param whole the register with all its columns, where `shape` has only those somebody sees
 */
export async function recordsTitled(
  db: Db,
  shape: RegisterShape,
  text: string,
  limit: number,
  whole: RegisterShape = shape,
): Promise<RecordRow[]> {
  const names = shape.title.filter((id) => shape.columns.some((c) => c.id === id && COLUMNS[c.kind].names));
  if (names.length === 0) return [];
  const like = text.replace(/[\\%_]/g, "\\$&");
  const any = (pattern: string) => names.map((id) => `t.${quoted(id)} ilike ${pattern}`).join(" or ");
  // What holds it anywhere holds it among its words: those have an index.
  const words = wordsLike(shape, whole, "$1");
  const found = `${words ? `${words} and ` : ""}(${any("$1")})`;
  const few = (condition: string) => `
    (
      select t.id
      from ${tableOf(shape.key)} t
      where ${condition}
      limit $3
    )
  `;
  return (
    await db.query(
      `
        select ${selectRecord(shape)}
        from
          (
            select id, min(nth) as nth
            from
              (
                select id, 0 as nth from ${few(`${found} and (${any("$2")})`)} a
                union all
                select id, 1 as nth from ${few(found)} b
              ) x
            group by id
          ) f
          join ${tableOf(shape.key)} t on t.id = f.id
        order by f.nth, t.id
        limit $3
      `,
      [`%${like}%`, `${like}%`, limit],
    )
  ).rows;
}

/** Locks the records in id order, so that two requests writing the same ones cannot wait for each other. */
export async function lockRecords(
  db: Db,
  shape: RegisterShape,
  ids: readonly string[],
): Promise<RecordRow[]> {
  return (
    await db.query(
      `
        select ${selectRecord(shape)}
        from ${tableOf(shape.key)} t
        where t.id = any ($1::bigint[])
        order by t.id
        for update
      `,
      [ids],
    )
  ).rows;
}

export async function insertRecord(
  db: Db,
  shape: RegisterShape,
  values: Readonly<Record<string, string | boolean | null>>,
): Promise<RecordRow> {
  const cols = shape.columns.filter((c) => values[c.id] !== undefined);
  const names = cols.map((c) => quoted(c.id));
  const text =
    cols.length > 0
      ? `
        insert into ${tableOf(shape.key)} as t (${names.join(", ")})
        values (${cols.map((_, i) => `$${i + 1}`).join(", ")})
        returning ${selectRecord(shape)}
      `
      : `insert into ${tableOf(shape.key)} as t default values returning ${selectRecord(shape)}`;
  return (
    await db.query(
      text,
      cols.map((c) => values[c.id]),
    )
  ).rows[0];
}

/** Many at once, for seeding; no history is written. */
export async function insertRecords(
  db: Db,
  shape: RegisterShape,
  rows: readonly Readonly<Record<string, string | boolean | null>>[],
): Promise<void> {
  const names = shape.columns.map((c) => c.id);
  for (let i = 0; i < rows.length; i += 500) {
    const part = rows.slice(i, i + 500);
    await db.query(
      `
        insert into ${tableOf(shape.key)} (${names.map(quoted).join(", ")})
        select ${names.map(quoted).join(", ")}
        from jsonb_populate_recordset(null::${tableOf(shape.key)}, $1::jsonb)
      `,
      [JSON.stringify(part)],
    );
  }
}

export async function updateRecord(
  db: Db,
  shape: RegisterShape,
  id: string,
  values: Readonly<Record<string, string | boolean | null>>,
): Promise<RecordRow | null> {
  const cols = shape.columns.filter((c) => values[c.id] !== undefined);
  if (cols.length === 0) return (await recordsByIds(db, shape, [id]))[0] ?? null;
  const { rows } = await db.query(
    `
      update ${tableOf(shape.key)} t
      set ${cols.map((c, i) => `${quoted(c.id)} = $${i + 2}`).join(", ")}
      where t.id = $1
      returning ${selectRecord(shape)}
    `,
    [id, ...cols.map((c) => values[c.id])],
  );
  return rows[0] ?? null;
}

export const deleteRecord = (db: Db, shape: RegisterShape, id: string) =>
  db.query(`delete from ${tableOf(shape.key)} where id = $1`, [id]);

export interface HistoryRow {
  id: string;
  at: number;
  by_person: string | null;
  request_number: string | null;
  did: "added" | "changed" | "removed";
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
}
export const insertHistory = (
  db: Db,
  h: {
    register: string;
    record: string;
    at: string;
    by: string | null;
    request: string | null;
    did: HistoryRow["did"];
    before: unknown;
    after: unknown;
  },
) =>
  db.query(
    `
      insert into
        register_history (register_key, record_id, at, by_person, request_number, did, before, after)
      values ($1, $2, $3, $4, $5, $6, $7, $8)
    `,
    [h.register, h.record, h.at, h.by, h.request, h.did, JSON.stringify(h.before), JSON.stringify(h.after)],
  );

export const historyOf = async (
  db: Db,
  register: string,
  record: string,
  limit: number,
): Promise<HistoryRow[]> =>
  (
    await db.query(
      `
        select id, at, by_person, request_number, did, before, after
        from register_history
        where register_key = $1 and record_id = $2
        order by id desc
        limit $3
      `,
      [register, record, limit],
    )
  ).rows;

export interface ColumnFound {
  sql: string;
  column: Column;
  /** What an index can be asked where it must be this value. */
  indexed?(value: string): string;
}

/** Finds the columns of a register, and of what it links to, for conditions written as formulas (alias `t`). */
export function columnsAsSql(
  shape: RegisterShape,
  registers: Readonly<Record<string, RegisterShape>>,
): (path: readonly string[]) => ColumnFound | null {
  const MAX_LINKS = 3;
  const find = (
    s: RegisterShape,
    alias: string,
    path: readonly string[],
    depth: number,
  ): ColumnFound | null => {
    const [name, ...rest] = path;
    const c = s.columns.find((x) => x.name === name);
    if (!c || depth > MAX_LINKS) return null;
    const sql = `${alias}.${quoted(c.id)}`;
    const { indexed } = COLUMNS[c.kind];
    if (rest.length === 0)
      return {
        column: c,
        sql: COLUMNS[c.kind].compared(sql),
        ...(indexed ? { indexed: (value: string) => indexed(sql, value) } : {}),
      };
    const target = c.kind === "look-up" && c.register ? registers[c.register] : undefined;
    const inner = target && find(target, `${alias}${depth}`, rest, depth + 1);
    return target && inner
      ? {
          column: inner.column,
          sql: `(select ${inner.sql} from ${tableOf(target.key)} ${alias}${depth} where ${alias}${depth}.id = ${sql})`,
        }
      : null;
  };
  return (path) => find(shape, "t", path, 0);
}

export interface RecordSearch {
  search: string;
  filters: { column: string; value: string }[];
  /** A condition over the columns as SQL; `bind` puts a value among the parameters. */
  where?: (bind: (value: unknown) => string) => string;
  sort: { column: string; descending: boolean } | null;
  offset: number;
  limit: number;
}

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
  const sortColumn = q.sort && shape.columns.find((c) => c.id === q.sort!.column);
  const order = sortColumn
    ? // The order of its index, from either end: what is empty stands last, or first.
      `t.${quoted(sortColumn.id)} ${q.sort!.descending ? "desc nulls last, t.id desc" : "asc nulls first, t.id"}`
    : "t.id";
  const condition = where.length > 0 ? `where ${where.join(" and ")}` : "";
  const titles = shape.columns.flatMap((c) => {
    const target = c.kind === "look-up" && c.register ? registers[c.register] : undefined;
    return target?.title[0] !== undefined
      ? [
          `(select l.${quoted(target.title[0])}::text from ${tableOf(target.key)} l where l.id = t.${quoted(c.id)}) as "${c.id}#"`,
        ]
      : [];
  });
  const most = mostCounted(q.search);
  const total = await cappedCount(db, `from ${tableOf(shape.key)} t ${condition}`, values, most);
  if (q.offset >= most) return { rows: [], total };
  const rows = (
    await db.query(
      `
        select ${[selectRecord(shape), ...titles].join(", ")}
        from ${tableOf(shape.key)} t ${condition}
        order by ${order}
        limit ${bind(q.limit)}
        offset ${bind(q.offset)}
      `,
      values,
    )
  ).rows;
  return { rows, total };
}

/** How many records there are, counted up to `MOST_COUNTED`. */
export const countRecords = (db: Db, key: string): Promise<number> =>
  cappedCount(db, `from ${tableOf(key)}`, []);
