import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { runMigrations } from "graphile-worker";
import pg from "pg";
import { databaseUrl, getPool } from "./pool";

/** Held by whoever migrates, so that two at once come one after the other. */
export const MIGRATING = 72001;

const folderOf = () => join(process.cwd(), "src/db/migrations");
const filesIn = async (folder: string) =>
  (await readdir(folder)).filter((f) => /^\d{4}_.*\.sql$/.test(f)).sort();

/**
 * Applies numbered SQL files that have not been applied yet, in order, each in its own transaction, and brings the
 * queue up to date. Two at once wait for each other.
 * @param url of a role that owns what is in the database
 * @returns the files applied
 */
export async function migrate(
  folder = folderOf(),
  say: (line: string) => void = () => undefined,
  url = databaseUrl(),
): Promise<string[]> {
  // On a pool of its own: a migration may go through every row there is, and is held to no time.
  const pool = new pg.Pool({ connectionString: url, max: 3, application_name: "cobble-step migrating" });
  pool.on("error", () => undefined);
  pool.on("connect", (c) => void c.on("error", () => undefined));
  const client = await pool.connect();
  try {
    await client.query("select pg_advisory_lock($1)", [MIGRATING]);
    await client.query(
      `
        create table if not exists schema_migration (name text primary key, applied_at timestamptz not null default now())
      `,
    );
    const done: string[] = [];
    for (const name of await filesIn(folder)) {
      if ((await client.query("select 1 from schema_migration where name = $1", [name])).rowCount) continue;
      await client.query("begin");
      try {
        await client.query(await readFile(join(folder, name), "utf8"));
        await client.query("insert into schema_migration (name) values ($1)", [name]);
        await client.query("commit");
      } catch (e) {
        await client.query("rollback");
        throw e;
      }
      done.push(name);
      say(name);
    }
    await runMigrations({ pgPool: pool });
    return done;
  } finally {
    // Its lock goes with the connection.
    client.release(true);
    await pool.end();
  }
}

/** Migrations this program knows and the database has not had yet; all of them where it has had none. */
export async function pendingMigrations(folder = folderOf()): Promise<string[]> {
  const db = getPool();
  const { rows } = await db.query("select to_regclass('public.schema_migration') is not null as there");
  const had = rows[0].there
    ? (await db.query("select name from schema_migration")).rows.map((r) => r.name)
    : [];
  return (await filesIn(folder)).filter((f) => !had.includes(f));
}
