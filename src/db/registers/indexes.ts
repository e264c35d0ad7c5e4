import type { RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import pg from "pg";
import { databaseUrl } from "../pool";
import { quoted, tableOf } from "./names";
import { allRegisters } from "./shapes";

/** Between two tries to be the one that makes indexes. */
const AGAIN_MS = 300;

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
export function wordsLike(shape: RegisterShape, whole: RegisterShape, like: string): string | null {
  const [seen, all] = [wordsOf(shape, "t."), wordsOf(whole, "t.")];
  if (seen === null || all === null) return null;
  return seen === all ? `${all} ilike ${like}` : `${all} ilike ${like} and ${seen} ilike ${like}`;
}

/** The name an index is told by: the same columns, the same index. */
const indexName = (shape: RegisterShape, what: string): string =>
  quoted(`${shape.key}_${what}`.slice(0, 39).replace(/_+$/, ""));

/** The indexes that keep a register fast however long it gets: over its words, and for each column it is sorted by. */
export function indexesOf(shape: RegisterShape): { name: string; on: string }[] {
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
    // Two that make indexes beside everybody's work would wait for each other: asked for again and again, because whoever
    // waits in the database is one of those an index waits for.
    while (
      !(await client.query("select pg_try_advisory_lock(hashtextextended('indexes of registers', 9)) as got"))
        .rows[0].got
    )
      await new Promise((r) => setTimeout(r, AGAIN_MS));
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
