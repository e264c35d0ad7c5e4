import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { runMigrations } from "graphile-worker";
import { getPool, inTransaction } from "./pool";

/** Applies numbered SQL files that have not been applied yet, in order, each in its own transaction. */
export async function migrate(
  folder = join(process.cwd(), "src/db/migrations"),
  say: (line: string) => void = () => undefined,
): Promise<string[]> {
  const pool = getPool();
  await pool.query(
    `
      create table if not exists schema_migration (name text primary key, applied_at timestamptz not null default now())
    `,
  );
  const files = (await readdir(folder)).filter((f) => /^\d{4}_.*\.sql$/.test(f)).sort();
  const done: string[] = [];
  for (const name of files) {
    const applied = await inTransaction(async (db) => {
      // Two processes starting at once must not both apply a file.
      // Nor be held to what an answer may take: a migration may go through every row there is.
      await db.query("set local statement_timeout = 0");
      await db.query("set local lock_timeout = 0");
      await db.query("select pg_advisory_xact_lock(72001)");
      const { rowCount } = await db.query("select 1 from schema_migration where name = $1", [name]);
      if (rowCount) return false;
      await db.query(await readFile(join(folder, name), "utf8"));
      await db.query("insert into schema_migration (name) values ($1)", [name]);
      return true;
    });
    if (applied) {
      done.push(name);
      say(name);
    }
  }
  await runMigrations({ pgPool: pool });
  return done;
}
