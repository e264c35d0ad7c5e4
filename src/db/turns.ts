import type { Db } from "./pool";

/** Held to the end of the transaction by whoever chooses between people: what one chose, the next one counts. */
export const lockTurns = (db: Db) => db.query("select pg_advisory_xact_lock(72011)");

export interface LoadRow {
  person: string;
  open: number;
  /** Grows with each turn anybody is given; null for never. */
  last: number | null;
}

/** Open tasks on one desk are counted so far: who has more has too many to be told from each other. */
const MOST_COUNTED = 1000;

/**
 * How many open tasks people have in other requests, and when it was their turn last.
 * @param besides the request whose own tasks are not counted; null for one that is being made
 */
export async function loads(
  db: Db,
  q: { process: string; step: string; people: readonly string[]; besides: string | null },
): Promise<LoadRow[]> {
  const { rows } = await db.query<LoadRow>(
    `select p.id as person, coalesce(o.n, 0)::int as open,
            g.number::float8 as last
       from unnest($1::text[]) p (id)
       left join lateral (
         select count(*) n from (
           select 1 from task_candidate c
            where c.person_id = p.id and c.open and c.request_id is distinct from $2::bigint
            limit ${MOST_COUNTED}) x) o on true
       left join turn_given g on g.process_key = $3 and g.step_id = $4 and g.person_id = p.id`,
    [q.people, q.besides, q.process, q.step],
  );
  return rows;
}

/** Keeps whose turn it was, in the order in which they were given it; under the lock. */
export async function keepTurns(
  db: Db,
  given: readonly { process: string; step: string; person: string }[],
): Promise<void> {
  await db.query(
    `insert into turn_given (process_key, step_id, person_id, number)
     select o.process, o.step, o.person, nextval('turn_number')
       from (select g.process, g.step, g.person, max(g.i) as i
               from unnest($1::text[], $2::text[], $3::text[]) with ordinality g (process, step, person, i)
               join process p on p.key = g.process
              group by 1, 2, 3
              order by 4) o
     on conflict (process_key, step_id, person_id) do update set number = excluded.number`,
    [given.map((g) => g.process), given.map((g) => g.step), given.map((g) => g.person)],
  );
}
