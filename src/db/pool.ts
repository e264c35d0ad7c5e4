import pg from "pg";

export type Client = pg.PoolClient;
/** Anything that can run a query: a pool for single reads, a client inside a transaction. */
export type Db = Pick<pg.ClientBase, "query">;

// Times travel as epoch milliseconds and big numbers as text; nothing is turned into Date or double on the way.
pg.types.setTypeParser(pg.types.builtins.TIMESTAMPTZ, (v) => Date.parse(v));
pg.types.setTypeParser(pg.types.builtins.DATE, (v) => v);
pg.types.setTypeParser(pg.types.builtins.NUMERIC, (v) => v);

let pool: pg.Pool | null = null;

/** The one pool of this process. DATABASE_URL names the server; measured best with 4 to 8 connections. */
export function getPool(): pg.Pool {
  if (!pool) {
    const connectionString = process.env["DATABASE_URL"];
    if (!connectionString) throw new Error("DATABASE_URL is not set. npm run demo sets it; see README.");
    pool = new pg.Pool({ connectionString, max: Number(process.env["DB_POOL"] ?? 8) });
    // A connection lost while idle must not end the process; the next query opens another.
    pool.on("error", () => undefined);
    pool.on("connect", (client) => void client.on("error", () => undefined));
  }
  return pool;
}

export async function closePool(): Promise<void> {
  const p = pool;
  pool = null;
  await p?.end();
}

/** Runs `work` in one transaction: all of it is kept, or nothing. */
export async function inTransaction<T>(work: (db: Client) => Promise<T>): Promise<T> {
  const client = await getPool().connect();
  let broken = false;
  try {
    await client.query("begin");
    const result = await work(client);
    await client.query("commit");
    return result;
  } catch (e) {
    await client.query("rollback").catch(() => {
      broken = true;
    });
    throw e;
  } finally {
    client.release(broken);
  }
}

export const at = (ms: number | null): string | null => (ms === null ? null : new Date(ms).toISOString());
