import pg from "pg";
import { databaseUrl } from "./pool";

const CONNECT_MS = 5_000;

export interface Listening {
  /** Ends the connection; nothing is called after that. */
  close(): void;
}

/**
 * Listens to a channel on a connection of its own: one taken from a pool and lost is a place in the pool that nobody
 * else gets, and after a few of them nothing of this process is answered any more.
 * @param lost called once, when the connection is gone
 * @throws whatever keeps it from being made
 */
export async function listen(
  channel: string,
  heard: (payload: string) => void,
  lost: () => void,
): Promise<Listening> {
  const client = new pg.Client({
    connectionString: databaseUrl(),
    connectionTimeoutMillis: CONNECT_MS,
    keepAlive: true,
    application_name: "cobble-step listening",
  });
  let over = false;
  const end = () => {
    if (over) return false;
    over = true;
    void client.end().catch(() => undefined);
    return true;
  };
  const gone = () => {
    if (end()) lost();
  };
  client.on("error", gone);
  client.on("end", gone);
  client.on("notification", (n) => {
    if (!over) heard(n.payload ?? "");
  });
  try {
    await client.connect();
    await client.query(`listen ${pg.escapeIdentifier(channel)}`);
  } catch (e) {
    end();
    throw e;
  }
  return { close: () => void end() };
}
