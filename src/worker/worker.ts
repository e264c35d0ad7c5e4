import { EventEmitter } from "node:events";
import {
  Logger,
  makeWorkerUtils,
  parseCronItems,
  run,
  type WorkerEvents,
  type WorkerUtils,
} from "graphile-worker";
import type { PoolClient } from "pg";
import { getPool, jobs } from "@/db";
import { indexRegisters, queueDueTimers, SYSTEM, watchMailboxes } from "@/services";
import { JOBS, SCHEDULE } from "./jobs";
import { watchQueue } from "./watchQueue";

const SWEEP_MS = 1000;
/** How often timers are looked for that are due. */
const TIMERS_MS = 500;
/** Namespace of the advisory locks by which workers show that they are alive. */
const ALIVE = 7307;

export interface WorkerHandle {
  /** Lets what is under way end. */
  stop(): Promise<void>;
  /** Settles when it can go on no more, with the reason: its connection is lost, or the queue gave up. */
  lost: Promise<string>;
}
export interface WorkerOptions {
  say(line: string): void;
  jobsAtOnce: number;
}
/** So long what is under way may take to end; a queue that failed does not say when it has ended. */
const STOP_MS = 10_000;

/**
 * Starts taking jobs. A worker that dies leaves its jobs locked, and the queue by itself would wait hours
 * for it; so each worker holds a session lock that PostgreSQL frees the moment its connection is gone,
 * and whoever notices a free lock hands the dead one's jobs out again.
 */
export async function startWorker({ say, jobsAtOnce }: WorkerOptions): Promise<WorkerHandle> {
  const pool = getPool();
  const alive = await pool.connect();
  let lose: (why: string) => void = () => undefined;
  const lost = new Promise<string>((resolve) => (lose = resolve));
  // Without its lock this worker would be taken for dead and its jobs done by two.
  alive.on("error", () => lose("the connection to PostgreSQL is lost"));
  try {
    return await startOn(alive, lost, (why) => lose(why), say, jobsAtOnce);
  } catch (e) {
    // Kept, it would be a place in the pool that nobody else gets.
    alive.release(true);
    throw e;
  }
}

async function startOn(
  alive: PoolClient,
  lost: Promise<string>,
  lose: (why: string) => void,
  say: (line: string) => void,
  concurrency: number,
): Promise<WorkerHandle> {
  const pool = getPool();
  const mine = new Set<string>();
  const events = new EventEmitter() as WorkerEvents;
  events.on("pool:create", ({ workerPool }) => {
    mine.add(workerPool.id);
    alive
      .query("select pg_advisory_lock($1, hashtext($2))", [ALIVE, workerPool.id])
      .catch((e: Error) => lose(e.message));
  });
  const lookAtQueue = watchQueue(events, concurrency, Date.now, lose);
  const runner = await run({
    pgPool: getPool("queue"),
    concurrency,
    pollInterval: 500,
    preset: {
      worker: {
        // A few jobs at a time are fetched and ended, because a round trip costs as much as a job; few, so that what
        // somebody waits for is not long behind them, and little is to be handed out again when a worker dies.
        localQueue: { size: 4 * concurrency, ttl: 10_000 },
        completeJobBatchDelay: 0,
      },
    },
    // Whichever worker comes first.
    parsedCronItems: parseCronItems(SCHEDULE),
    noHandleSignals: true,
    events,
    logger: new Logger(() => (level, message) => {
      if (level === "error") say(`worker: ${message}`);
    }),
    taskList: Object.fromEntries(
      Object.entries(JOBS).map(([name, kind]) => [name, (payload) => kind.run(kind.payload.parse(payload))]),
    ),
  });
  runner.promise.then(
    () => lose("the queue ended by itself"),
    (e: unknown) => lose(e instanceof Error ? e.message : String(e)),
  );
  const utils = await makeWorkerUtils({ pgPool: pool }).catch(async (e: unknown) => {
    await runner.stop().catch(() => undefined);
    throw e;
  });
  // Mostly there is nothing to do; after an update it may take a while, beside everything else.
  void indexRegisters(SYSTEM).catch((e: Error) => say(`worker: indexes of registers: ${e.message}`));
  const suspected = new Set<string>();
  const sweep = setInterval(() => {
    lookAtQueue();
    void sweepDead(utils, alive, mine, suspected).catch((e: Error) => say(`worker: sweep: ${e.message}`));
  }, SWEEP_MS);
  let looking = false;
  const timers = setInterval(() => {
    if (looking) return;
    looking = true;
    queueDueTimers(SYSTEM)
      .catch((e: Error) => say(`worker: timers: ${e.message}`))
      .finally(() => (looking = false));
  }, TIMERS_MS);
  const mail = new AbortController();
  const watched = watchMailboxes(SYSTEM, mail.signal, (line) => say(`worker: ${line}`)).catch((e: Error) =>
    say(`worker: mailboxes: ${e.message}`),
  );
  say("worker: ready");
  return {
    lost,
    async stop() {
      clearInterval(sweep);
      clearInterval(timers);
      mail.abort();
      // Without a database some of this never ends.
      await Promise.race([
        Promise.all([runner.stop(), watched])
          .then(() => utils.release())
          .catch(() => undefined),
        new Promise((r) => setTimeout(r, STOP_MS).unref()),
      ]);
      alive.release(true);
    },
  };
}

/** Frees the jobs of workers whose lock is gone. Seen twice, so that one just starting is not taken for dead. */
async function sweepDead(
  utils: WorkerUtils,
  alive: PoolClient,
  mine: ReadonlySet<string>,
  suspected: Set<string>,
): Promise<void> {
  const dead: string[] = [];
  for (const id of await jobs.lockedWorkers(getPool())) {
    if (mine.has(id)) continue;
    const { rows } = await alive.query("select pg_try_advisory_lock($1, hashtext($2)) as free", [ALIVE, id]);
    if (!rows[0].free) {
      suspected.delete(id);
      continue;
    }
    await alive.query("select pg_advisory_unlock($1, hashtext($2))", [ALIVE, id]);
    if (suspected.has(id)) dead.push(id);
    suspected.add(id);
  }
  if (dead.length > 0) {
    await utils.forceUnlockWorkers(dead);
    for (const id of dead) suspected.delete(id);
  }
}
