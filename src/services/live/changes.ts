import { listen, requests, type Listening } from "@/db";

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
/** The connection that listens for all, or is being made. */
let listening: Promise<Listening> | null = null;

const FIRST_WAIT_MS = 1_000;
const LONGEST_WAIT_MS = 30_000;
let wait = FIRST_WAIT_MS;

/**
 * Calls back whenever a request changes that the page may show, in whichever process. One connection listens for
 * all; when it is lost another is made, with growing waits while there is none to be had.
 */
export async function onChanges(shows: Shows, changed: () => void): Promise<() => void> {
  const listener: Listener = ({ number, people }) => {
    if (shows.anybody || people === null || people.includes(shows.person) || number === shows.request)
      changed();
  };
  listeners.add(listener);
  try {
    await (listening ?? open());
  } catch (e) {
    listeners.delete(listener);
    throw e;
  }
  return () => {
    listeners.delete(listener);
    // Nobody is left: the connection goes too.
    if (listeners.size > 0 || !listening) return;
    const last = listening;
    listening = null;
    void last.then((c) => c.close()).catch(() => undefined);
  };
}

function open(): Promise<Listening> {
  const mine: Promise<Listening> = listen(
    "changed",
    (payload) => {
      const tick = requests.readTick(payload);
      for (const l of listeners) l(tick);
    },
    () => {
      // Another may stand in its place by now.
      if (listening !== mine) return;
      listening = null;
      again();
    },
  );
  listening = mine;
  mine
    .then(() => {
      wait = FIRST_WAIT_MS;
    })
    .catch(() => {
      if (listening === mine) listening = null;
    });
  return mine;
}

/** Those still waiting get a new connection; whatever they missed they see, for all of them look again. */
function again() {
  setTimeout(() => {
    if (listening || listeners.size === 0) return;
    open()
      .then(() => {
        // Nobody knows what was missed: everybody looks again.
        for (const l of listeners) l({ number: "", people: null });
      })
      .catch(again);
  }, wait).unref();
  wait = Math.min(wait * 2, LONGEST_WAIT_MS);
}
