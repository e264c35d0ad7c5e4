import { AsyncLocalStorage } from "node:async_hooks";

/** Whoever a call comes from, as the web process knows them before it is known who they are. */
export interface Caller {
  /** Aborted when they leave: searches under way for nobody are then stopped. */
  gone: AbortSignal;
  address: string;
}

// The web server and the pages it serves are bundled apart; what tells one of the other's callers stands beside both.
const SHARED = Symbol.for("cobble-step.caller");
const shared = globalThis as unknown as Record<symbol, AsyncLocalStorage<Caller> | undefined>;
const callers = (shared[SHARED] ??= new AsyncLocalStorage<Caller>());

/** Runs `work` for a caller. */
export const forCaller = <T>(caller: Caller, work: () => T): T => callers.run(caller, work);

/** Whom this runs for; nobody in workers and tests. */
export const callerNow = (): Caller | undefined => callers.getStore();
