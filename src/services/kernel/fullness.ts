/** How long a database that had no room is taken to have none still: it is found out by the next thing that is written. */
const REMEMBERED_MS = 30_000;

// The web server and the pages it serves are bundled apart; one must know what the other met.
const SHARED = Symbol.for("cobble-step.full");
const shared = globalThis as unknown as Record<symbol, number | undefined>;

export const wasFull = (): void => {
  shared[SHARED] = performance.now();
};
export const isFull = (): boolean => {
  const at = shared[SHARED];
  return at !== undefined && performance.now() - at < REMEMBERED_MS;
};
