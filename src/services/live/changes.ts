import { getPool, requests, type Client } from "@/db";

/** What a page shows, as far as ticks go. */
export interface Shows {
  /** Whose page it is: requests, tasks and notices of theirs stand on all of them. */
  person: string;
  /** The number of the request it is about. */
  request: string | null;
  /** Whether it shows requests of anybody, as Progress and registers do. */
  anybody: boolean;
}
type Listener = (tick: requests.Tick) => void;
const listeners = new Set<Listener>();
let client: Promise<Client> | null = null;

/**
 * Calls back whenever a request changes that the page may show, in whichever process. One connection listens for
 * all; when it is lost the next listener opens another.
 */
export async function onChanges(shows: Shows, changed: () => void): Promise<() => void> {
  const listener: Listener = ({ number, people }) => {
    if (shows.anybody || people === null || people.includes(shows.person) || number === shows.request)
      changed();
  };
  listeners.add(listener);
  try {
    await (client ?? open());
  } catch (e) {
    listeners.delete(listener);
    throw e;
  }
  return () => {
    listeners.delete(listener);
    // Nobody is left: the connection goes too, for a pool ends only once all of them are back.
    if (listeners.size > 0 || !client) return;
    const last = client;
    client = null;
    void last.then((c) => c.release(true)).catch(() => undefined);
  };
}

const AGAIN_MS = 1000;

function open(): Promise<Client> {
  const mine: Promise<Client> = listen(() => {
    // A connection given back is not lost, and another may stand in its place by now.
    if (client !== mine) return;
    client = null;
    again();
  });
  client = mine;
  mine.catch(() => {
    if (client === mine) client = null;
  });
  return mine;
}

/** Those still waiting get a new connection; what they missed they see at their next refresh. */
function again() {
  setTimeout(() => {
    if (!client && listeners.size > 0) open().catch(again);
  }, AGAIN_MS);
}

async function listen(lost: () => void): Promise<Client> {
  const c = await getPool().connect();
  c.on("error", lost);
  c.on("end", lost);
  c.on("notification", (n) => {
    const tick = requests.readTick(n.payload ?? "");
    for (const l of listeners) l(tick);
  });
  try {
    await c.query("listen changed");
    return c;
  } catch (e) {
    c.release(true);
    throw e;
  }
}
