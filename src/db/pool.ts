import pg from "pg";

export type Client = pg.PoolClient;
/** Anything that can run a query: a pool for single reads, a client inside a transaction. */
export type Db = Pick<pg.ClientBase, "query">;

// Times travel as epoch milliseconds and big numbers as text; nothing is turned into Date or double on the way.
pg.types.setTypeParser(pg.types.builtins.TIMESTAMPTZ, (v) => Date.parse(v));
pg.types.setTypeParser(pg.types.builtins.DATE, (v) => v);
pg.types.setTypeParser(pg.types.builtins.NUMERIC, (v) => v);

/** How long work of one kind may take, in milliseconds, and how many of it run at once. */
interface Bounds {
  connections: number;
  /** One statement. */
  statement: number;
  /** Waiting for a row that somebody else has locked. */
  lock: number;
  /** A transaction in which nothing happens: its process has gone, or forgot it. */
  idle: number;
  /** Waiting for a connection to become free, or to be made. */
  connect: number;
}
/**
 * Commands and pages; and searches, which go through many rows, on connections of their own, so that slow ones never
 * hold up answers. Measured best with 4 to 8 connections for work. The job queue has its own as well, and patience: a
 * job that is done cannot be ticked off while a command that wants it once more has not ended, and where ticking off
 * fails its library gives up as a whole.
 */
const BOUNDS = {
  work: { connections: 8, statement: 15_000, lock: 5_000, idle: 15_000, connect: 5_000 },
  search: { connections: 3, statement: 5_000, lock: 2_000, idle: 5_000, connect: 3_000 },
  queue: { connections: 4, statement: 30_000, lock: 30_000, idle: 15_000, connect: 30_000 },
} as const satisfies Record<string, Bounds>;
type Work = keyof typeof BOUNDS;

const pools = new Map<Work, pg.Pool>();

/** DATABASE_URL as it is set. */
export function databaseUrl(): string {
  const url = process.env["DATABASE_URL"];
  if (!url) throw new Error("DATABASE_URL is not set. npm run demo sets it; see README.");
  return url;
}

/** The pool of this process for one kind of work. DATABASE_URL names the server. */
export function getPool(work: Work = "work"): pg.Pool {
  let pool = pools.get(work);
  if (!pool) {
    const b = BOUNDS[work];
    pool = new pg.Pool({
      connectionString: databaseUrl(),
      max: Number((work === "work" && process.env["DB_POOL"]) || b.connections),
      connectionTimeoutMillis: b.connect,
      statement_timeout: b.statement,
      lock_timeout: b.lock,
      idle_in_transaction_session_timeout: b.idle,
      application_name: `cobble-step ${work}`,
    });
    // A connection lost while idle must not end the process; the next query opens another.
    pool.on("error", () => undefined);
    pool.on("connect", (client) => void client.on("error", () => undefined));
    pools.set(work, pool);
  }
  return pool;
}

export async function closePool(): Promise<void> {
  const all = [...pools.values()];
  pools.clear();
  await Promise.all(all.map((p) => p.end()));
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

/**
 * Runs `work` while this process alone holds a name, without a transaction: what it does takes longer than one may. The
 * name is free again when it ends, also by the end of the process.
 * @returns whether it ran: not where somebody else holds the name
 */
export async function holding(name: string, work: () => Promise<void>): Promise<boolean> {
  const client = await getPool().connect();
  let broken = true;
  try {
    const { rows } = await client.query("select pg_try_advisory_lock(hashtextextended($1, 14)) as free", [
      name,
    ]);
    if (!rows[0].free) {
      broken = false;
      return false;
    }
    await work();
    await client.query("select pg_advisory_unlock(hashtextextended($1, 14))", [name]);
    broken = false;
    return true;
  } finally {
    // Closed rather than handed on with a name that is still held.
    client.release(broken);
  }
}

/** Names held by one connection for as long as it lives. */
export interface Holder {
  /** Whether a name is this holder's from now on. */
  hold(name: string): Promise<boolean>;
  free(name: string): Promise<void>;
  /** Aborted where the connection is lost, and all names with it. */
  lost: AbortSignal;
  close(): void;
}
export async function openHolder(): Promise<Holder> {
  const client = await getPool().connect();
  const lost = new AbortController();
  const lose = () => lost.abort();
  client.on("error", lose);
  client.on("end", lose);
  // One after the other: a connection does one thing at a time.
  let last: Promise<unknown> = Promise.resolve();
  const asked = (text: string, name: string): Promise<{ rows: { free: boolean }[] }> => {
    const next = last.then(() => client.query(text, [name]));
    last = next.catch(() => undefined);
    return next;
  };
  return {
    hold: async (name) =>
      (await asked("select pg_try_advisory_lock(hashtextextended($1, 14)) as free", name)).rows[0]!.free,
    free: async (name) =>
      void (await asked("select pg_advisory_unlock(hashtextextended($1, 14)) as free", name).catch(
        () => undefined,
      )),
    lost: lost.signal,
    close: () => client.release(true),
  };
}

export const at = (ms: number | null): string | null => (ms === null ? null : new Date(ms).toISOString());
