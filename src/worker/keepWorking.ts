import { startWorker, type WorkerOptions } from "./worker";

const FIRST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 4_000;

/**
 * Takes jobs until it is told to stop. When the database goes away it waits, longer each time, and begins anew as
 * another worker: the jobs of the one before are handed out again like those of any that died.
 */
export async function keepWorking(stopped: AbortSignal, options: WorkerOptions): Promise<void> {
  const { say } = options;
  const asked = new Promise<null>((resolve) => {
    if (stopped.aborted) resolve(null);
    else stopped.addEventListener("abort", () => resolve(null), { once: true });
  });
  const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));
  for (let wait = FIRST_WAIT_MS; !stopped.aborted; wait = Math.min(wait * 2, LONGEST_WAIT_MS)) {
    try {
      const worker = await startWorker(options);
      wait = FIRST_WAIT_MS;
      const why = await Promise.race([worker.lost, asked]);
      if (why !== null) say(`worker: ${why}; going on when there is a database again`);
      await worker.stop();
    } catch (e) {
      say(`worker: ${e instanceof Error ? e.message : String(e)}`);
    }
    if (!stopped.aborted) await Promise.race([pause(wait), asked]);
  }
}
