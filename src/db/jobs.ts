import type { Timer } from "@/core/engine";
import { at, type Db } from "./pool";

/**
 * Timers go last among jobs that could run: with many pending timers of the same or a better priority the
 * queue looks through all of them to find a job to do now.
 */
const TIMER_PRIORITY = 1000;

/** Something for a worker: the name of a task, and what it is handed. The request's id is added when it is saved. */
export interface Job {
  task: string;
  payload: object;
  /** How often it is tried before it counts as failed. */
  attempts: number;
}

/**
 * The jobs of one command, for the statement that saves it; the request's id, and with it the key of a
 * timer's job, are filled in there. `offset` is how far the clock is moved.
 */
export function jobSpecs(
  todo: readonly Job[],
  timers: readonly Timer[],
  offset: number,
): Record<string, unknown>[] {
  return [
    ...todo.map((j) => ({ identifier: j.task, payload: j.payload, max_attempts: j.attempts })),
    ...timers.map((t) => ({
      identifier: "timer",
      timer: t.id,
      payload: {},
      run_at: at(t.at - offset),
      priority: TIMER_PRIORITY,
      max_attempts: 25,
    })),
  ];
}

/** After the clock was moved: every pending timer gets the moment at which it will be due by the moved clock. */
export const retimeJobs = (db: Db, offset: number) =>
  db.query(
    `
      select
        graphile_worker.add_job (
          'timer',
          json_build_object('request', t.request_id::text),
          run_at := t.due_at - make_interval(secs => $1 / 1000.0),
          job_key := 'timer:' || t.request_id || ':' || t.id,
          priority := ${TIMER_PRIORITY},
          max_attempts := 25
        )
      from timer t
    `,
    [offset],
  );

/** Looks at once who of those asked is there; asked for twice before it ran, it runs once. */
export const lookWhoIsThere = (db: Db) =>
  db.query("select graphile_worker.add_job('ask_others', '{}'::json, job_key := 'ask_others')");

/** Ids of workers that hold locked jobs, for the sweeper. */
export const lockedWorkers = async (db: Db): Promise<string[]> =>
  (
    await db.query("select distinct locked_by from graphile_worker.jobs where locked_by is not null")
  ).rows.map((r) => r.locked_by);
