import { callerNow } from "./caller";
import { getPool, type Db } from "./pool";

/**
 * A search: on a connection of the pool for searches, stopped in the database when its caller leaves.
 * @throws the database's "query canceled" where it was stopped, or took longer than a search may
 */
export async function searching<T>(work: (db: Db) => Promise<T>): Promise<T> {
  const gone = callerNow()?.gone;
  gone?.throwIfAborted();
  const client = await getPool("search").connect();
  let stopped: Promise<unknown> | null = null;
  const stop = () => {
    const { processID } = client as unknown as { processID: number };
    stopped = getPool()
      .query("select pg_cancel_backend($1)", [processID])
      .catch(() => undefined);
  };
  gone?.addEventListener("abort", stop, { once: true });
  if (gone?.aborted) stop();
  try {
    return await work(client);
  } finally {
    gone?.removeEventListener("abort", stop);
    // A stop may arrive late: it must not hit whoever has the connection next.
    await stopped;
    client.release(stopped !== null);
  }
}
