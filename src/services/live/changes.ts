import { getPool, type Client } from "@/db";

type Listener = (requestId: string) => void;
const listeners = new Set<Listener>();
let client: Promise<Client> | null = null;

/**
 * Calls back whenever any request changes, in whichever process. One connection listens for all; when it
 * is lost the next listener opens another.
 */
export async function onChanges(listener: Listener): Promise<() => void> {
  listeners.add(listener);
  client ??= listen();
  await client;
  return () => void listeners.delete(listener);
}

async function listen(): Promise<Client> {
  try {
    const c = await getPool().connect();
    const lost = () => {
      client = null;
      // Those still waiting get a new connection; what they missed they see at their next refresh.
      if (listeners.size > 0) setTimeout(() => void (client ??= listen()), 1000);
    };
    c.on("error", lost);
    c.on("end", lost);
    c.on("notification", (n) => {
      for (const l of listeners) l(n.payload ?? "");
    });
    await c.query("listen changed");
    return c;
  } catch (e) {
    client = null;
    throw e;
  }
}
