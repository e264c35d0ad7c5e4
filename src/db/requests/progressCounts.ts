import type { Db } from "../pool";

/** Beside the name of a view nobody reads more than that. */
export const MOST_IN_VIEW = 1000;

export interface ProgressCounts {
  open: number;
  late: number;
  stuck: number;
}

/** Requests under way, past a limit, and stuck, counted up to `MOST_IN_VIEW`, of the processes somebody owns, or of one of them. */
export async function progressCounts(
  db: Db,
  owner: string,
  process: string | null,
  now: string,
): Promise<ProgressCounts> {
  const { rows } = await db.query({
    name: "progress-counts",
    text: `
      with
        mine as (
          select process_key
          from process_owner
          where person_id = $1 and ($2::text is null or process_key = $2)
        ),
        open as (
          select 1
          from mine m join request r on r.process_key = m.process_key and r.ended_at is null
          limit ${MOST_IN_VIEW + 1}
        ),
        stuck as (
          select 1
          from mine m join request r on r.process_key = m.process_key and r.status = 'stuck'
          limit ${MOST_IN_VIEW + 1}
        ),
        late as (
          select 1
          from
            mine m
            join request r on r.process_key = m.process_key and r.ended_at is null and r.due_at < $3
          limit ${MOST_IN_VIEW + 1}
        )
      select
        (select count(*)::int from open) as open,
        (select count(*)::int from late) as late,
        (select count(*)::int from stuck) as stuck
    `,
    values: [owner, process, now],
  });
  return rows[0];
}
