import { at, type Db } from "../pool";

export interface TimerJob {
  request: string;
  timer: string;
  dueAt: number;
}

/**
 * Timers go last among jobs that could run: with many pending timers of the same or a better priority the
 * queue looks through all of them to find a job to do now.
 */
const TIMER_PRIORITY = 1000;

const timerKey = (request: string, timer: string) => `timer:${request}:${timer}`;

/** Adds the jobs of one command by one call, in the caller's transaction. `offset` is how far the clock is moved. */
export async function addJobs(
  db: Db, tells: readonly { request: string; effect: unknown }[], timers: readonly TimerJob[], offset: number,
): Promise<void> {
  if (tells.length + timers.length === 0) return;
  const specs = [
    ...tells.map((t) => ({ identifier: "tell", payload: t, max_attempts: 12 })),
    ...timers.map((t) => ({
      identifier: "timer", payload: { request: t.request }, run_at: at(t.dueAt - offset), job_key: timerKey(t.request, t.timer), priority: TIMER_PRIORITY, max_attempts: 25,
    })),
  ];
  await db.query({
    name: "add-jobs",
    text: `select 1 from graphile_worker.add_jobs(array(
      select json_populate_record(null::graphile_worker.job_spec, j) from json_array_elements($1::json) j))`,
    values: [JSON.stringify(specs)],
  });
}

export async function removeTimerJobs(db: Db, request: string, timers: readonly string[]): Promise<void> {
  if (timers.length === 0) return;
  await db.query({ name: "remove-jobs", text: "select graphile_worker.remove_job(k) from unnest($1::text[]) k", values: [timers.map((t) => timerKey(request, t))] });
}

/** After the clock was moved: every pending timer gets the moment at which it will be due by the moved clock. */
export const retimeJobs = (db: Db, offset: number) =>
  db.query(
    `select graphile_worker.add_job('timer', json_build_object('request', t.request_id::text),
       run_at := t.due_at - make_interval(secs => $1 / 1000.0), job_key := 'timer:' || t.request_id || ':' || t.id, priority := ${TIMER_PRIORITY}, max_attempts := 25)
     from timer t`, [offset]);

/** Ids of workers that hold locked jobs, for the sweeper. */
export const lockedWorkers = async (db: Db): Promise<string[]> =>
  (await db.query("select distinct locked_by from graphile_worker.jobs where locked_by is not null")).rows.map((r) => r.locked_by);

export const pendingJobs = async (db: Db): Promise<number> =>
  (await db.query("select count(*)::int as n from graphile_worker.jobs where run_at <= now()")).rows[0].n;
