import type { Db } from "./pool";

/** A job that was tried as often as it may be, and is tried no more. */
export interface DeadJobRow {
  id: string;
  task: string;
  /** The number of the request it is for. */
  number: string | null;
  attempts: number;
  error: string;
  since: number;
}
const DEAD = "j.attempts >= j.max_attempts and j.locked_at is null";

export const deadJobs = async (db: Db, limit: number): Promise<DeadJobRow[]> =>
  (
    await db.query<DeadJobRow>(
      `
        select
          j.id,
          t.identifier as task,
          r.number,
          j.attempts,
          coalesce(j.last_error, '') as error,
          j.updated_at as since
        from
          graphile_worker._private_jobs j
          join graphile_worker._private_tasks t on t.id = j.task_id
          left join request r on r.id = case
            when j.payload ->> 'request' ~ '^\\d{1,18}$' then (j.payload ->> 'request')::bigint
          end
        where ${DEAD}
        order by j.updated_at desc
        limit $1
      `,
      [limit],
    )
  ).rows;

const known = (action: string) =>
  `select count(*)::int as n from ${action} where exists (select from graphile_worker._private_jobs j where j.id = $1 and ${DEAD})`;

/** Tries it anew, from now on as often as at first. False where there is no such dead job. */
export const reviveJob = async (db: Db, id: string): Promise<boolean> =>
  (await db.query(known("graphile_worker.reschedule_jobs(array[$1::bigint], now(), attempts := 0)"), [id]))
    .rows[0].n > 0;
export const dropJob = async (db: Db, id: string): Promise<boolean> =>
  (await db.query(known("graphile_worker.complete_jobs(array[$1::bigint])"), [id])).rows[0].n > 0;

/** Removes dead jobs nobody saw to for so many days; how many. */
export const sweepDeadJobs = async (db: Db, days: number): Promise<number> =>
  (
    await db.query(
      `
        select count(*)::int as n
        from
          graphile_worker.complete_jobs(
            array(
              select j.id
              from graphile_worker._private_jobs j
              where ${DEAD} and j.updated_at < now() - make_interval(days => $1)
            )
          )
      `,
      [days],
    )
  ).rows[0].n;
