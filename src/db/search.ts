import { AsyncLocalStorage } from "node:async_hooks";
import { getPool, type Db } from "./pool";

// The web server and the pages it serves are bundled apart; what tells one of the other's callers stands beside both.
const SHARED = Symbol.for("cobble-step.caller");
const shared = globalThis as unknown as Record<symbol, AsyncLocalStorage<AbortSignal> | undefined>;
const caller = (shared[SHARED] ??= new AsyncLocalStorage<AbortSignal>());

/** Runs `work` for a caller whose leaving `gone` tells: searches under way for nobody are then stopped. */
export const forCaller = <T>(gone: AbortSignal, work: () => T): T => caller.run(gone, work);

/**
 * A search: on a connection of the pool for searches, stopped in the database when its caller leaves.
 * @throws the database's "query canceled" where it was stopped, or took longer than a search may
 */
export async function searching<T>(work: (db: Db) => Promise<T>): Promise<T> {
  const gone = caller.getStore();
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
