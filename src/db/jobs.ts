import type { Db } from "./pool";

/** Timers go last among jobs that could run: somebody waits for the others. */
const TIMER_PRIORITY = 1000;

/** Something for a worker: the name of a task, and what it is handed. The request's id is added when it is saved. */
export interface Job {
  task: string;
  payload: object;
  /** How often it is tried before it counts as failed. */
  attempts: number;
  /** Milliseconds before it is begun; at once where it is not said. */
  afterMs?: number;
}

/** The jobs of one command, for the statement that saves it; the request's id is filled in there. */
export const jobSpecs = (todo: readonly Job[]): Record<string, unknown>[] =>
  todo.map((j) => ({
    identifier: j.task,
    payload: j.payload,
    max_attempts: j.attempts,
    ...(j.afterMs === undefined ? {} : { run_at: new Date(Date.now() + j.afterMs).toISOString() }),
  }));

/**
 * Puts a job in the queue for each request with timers that are due, once for each timer; what another worker is putting
 * there just now is passed over. The queue is filled up to a limit and no further: fetching the next job of many
 * thousands costs more than the job.
 * @param now by the application's clock
 * @param most jobs for timers that may wait; those that wait to be tried again are not counted
 * @returns how many timers
 */
export const queueDueTimers = async (db: Db, now: string, most: number): Promise<number> =>
  (
    await db.query({
      name: "queue-due-timers",
      text: `
        with
          -- The queue's own table, because its view does not show what its index is by.
          waiting as (
            select count(*) as n
            from
              (
                select 1
                from graphile_worker._private_jobs
                where is_available = true and priority = ${TIMER_PRIORITY} and run_at <= now()
                limit $2
              ) j
          ),
          due as (
            select request_id, id
            from timer
            where not queued and due_at <= $1
            order by due_at
            limit $2 - (select n from waiting)
            for update skip locked
          ),
          marked as (
            update timer t
            set queued = true
            from due d
            where t.request_id = d.request_id and t.id = d.id
            returning t.request_id
          )
        select
          (select count(*)::int from marked) as timers,
          (
            select count(*)
            from
              graphile_worker.add_jobs (
                array(
                  select
                    json_populate_record(
                      null::graphile_worker.job_spec,
                      json_build_object(
                        'identifier', 'timer',
                        'payload', json_build_object('request', m.request_id::text),
                        'job_key', 'timer:' || m.request_id,
                        'priority', ${TIMER_PRIORITY},
                        'max_attempts', 25
                      )
                    )
                  from (select distinct request_id from marked) m
                )
              )
          ) as jobs
      `,
      values: [now, most],
    })
  ).rows[0].timers;

/** Looks at once who of those asked is there; asked for twice before it ran, it runs once. */
export const lookWhoIsThere = (db: Db) =>
  db.query("select graphile_worker.add_job('ask_others', '{}'::json, job_key := 'ask_others')");

/** Ids of workers that hold locked jobs, for the sweeper. */
export const lockedWorkers = async (db: Db): Promise<string[]> =>
  (
    await db.query("select distinct locked_by from graphile_worker.jobs where locked_by is not null")
  ).rows.map((r) => r.locked_by);
