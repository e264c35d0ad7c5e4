import type { WorkerEvents } from "graphile-worker";

/** A queue with a free hand looks for jobs twice a second; one that has not for so long is not going to. */
const LOOKS_WITHIN_MS = 60_000;

/**
 * Notices that the queue takes no jobs any more, though its process lives. Where a job that is done cannot be ticked
 * off, even once, the queue library (0.17) shuts itself down, and the promise of its runner is then fulfilled like
 * after an orderly end: whoever only waits for that to fail has a worker that looks well and does nothing.
 * @param hands how many jobs it does at once
 * @param now in milliseconds
 * @param lose told why, perhaps more than once
 * @returns to be called now and then: looks whether it still looks for jobs
 */
export function watchQueue(
  events: WorkerEvents,
  hands: number,
  now: () => number,
  lose: (why: string) => void,
): () => void {
  events.on("pool:fatalError", ({ action, error }) =>
    lose(`the queue failed at ${action}: ${String(error)}`),
  );
  events.on("pool:gracefulShutdown", ({ message }) => lose(`the queue ended: ${message}`));
  const under = new Set<string>();
  let looked = now();
  const seen = () => void (looked = now());
  events.on("localQueue:getJobs:complete", seen);
  events.on("job:start", ({ job }) => under.add(job.id));
  events.on("job:complete", ({ job }) => {
    under.delete(job.id);
    seen();
  });
  return () => {
    // With all hands full it need not look.
    if (under.size >= hands) seen();
    else if (now() - looked > LOOKS_WITHIN_MS)
      lose(`the queue has not looked for jobs for ${Math.round((now() - looked) / 1000)} s`);
  };
}
