import type { RecordChange } from "@/core/records";
import type { Someone, StoredRecord } from "@/core/form";
import type { Db } from "./pool";

/** A request that was started by a record: of which process, by which record ("objects/12"). */
export interface Cause {
  process: string;
  record: string;
}

/** What became of a record that starts a request, or would have: then `why` says what kept it. */
export interface RecordStartRow {
  id: string;
  process_key: string;
  start_id: string;
  register_key: string;
  record_id: string;
  /** `near`: a date of it has come near. */
  did: RecordChange["did"] | "near" | "day";
  before: StoredRecord | null;
  after: StoredRecord | null;
  behind: Someone | null;
  chain: Cause[];
  /** The date that came near, and whether the same may start one again. */
  for_date: string | null;
  again: boolean;
}
export type NewRecordStart = Omit<RecordStartRow, "id"> & { at: string; due_at: string; why: string | null };

/** Keeps what became of records, in order; a worker makes requests of it. @returns their ids */
export async function insertRecordStarts(db: Db, rows: readonly NewRecordStart[]): Promise<string[]> {
  if (rows.length === 0) return [];
  const made = await db.query(
    `
      insert into
        record_start (
          process_key, start_id, register_key, record_id, did, before, after, at, behind, chain, due_at, done_at, why,
          for_date, again
        )
      select
        process_key, start_id, register_key, record_id, did, nullif(before, 'null'), nullif(after, 'null'), at,
        nullif(behind, 'null'), chain, due_at, case when why is not null then at end, why, for_date, again
      from
        jsonb_to_recordset($1::jsonb) as r (
          process_key text,
          start_id text,
          register_key text,
          record_id bigint,
          did text,
          before jsonb,
          after jsonb,
          at timestamptz,
          behind jsonb,
          chain jsonb,
          due_at timestamptz,
          why text,
          for_date text,
          again boolean
        )
      on conflict do nothing
      returning id::text as id
    `,
    [JSON.stringify(rows)],
  );
  if (rows.some((r) => r.why === null)) await queueRecordStarts(db);
  return made.rows.map((r) => r.id);
}

/** Has a worker look for what has become due; asked for twice before it looks, it looks once. */
export const queueRecordStarts = (db: Db) =>
  db.query("select graphile_worker.add_job('record_starts', '{}'::json, job_key := 'record_starts')");

const COLUMNS = `id::text as id, process_key, start_id, register_key, record_id::text as record_id, did, before, after,
  behind, chain, for_date, again`;
/** Of a start that was paused before it came. */
const PAUSED = `exists (
  select from start_pause p where p.process_key = r.process_key and p.start_id = r.start_id and p.since <= r.at
)`;

/**
 * Those whose turn it is: of each process and record the oldest that is open, where it is due and not paused. Asked for
 * many at a time, because finding one of ten thousand costs more than what is done with it.
 */
export const dueRecordStarts = async (db: Db, now: string, most: number): Promise<string[]> =>
  (
    await db.query(
      `
        with
          heads as materialized (
            select distinct on (register_key, record_id, process_key) id, process_key, start_id, at, due_at
            from record_start
            where done_at is null
            order by register_key, record_id, process_key, record_start.id
          )
        select id::text as id
        from heads r
        where due_at <= $1 and not ${PAUSED}
        order by due_at, r.id
        limit $2
      `,
      [now, most],
    )
  ).rows.map((r) => r.id);

const HEAD = `
  select o.id
  from record_start o
  where o.done_at is null and o.register_key = r.register_key and o.record_id = r.record_id and o.process_key = r.process_key
  order by o.id
  limit 1
`;

/**
 * One whose turn it was, locked; null where another worker is at it, or was, or it was paused meanwhile. That nothing
 * before it is open cannot become untrue: what comes later of the same record has a later id, as the record is locked
 * while it is written.
 */
export const takeRecordStart = async (db: Db, id: string, now: string): Promise<RecordStartRow | null> =>
  (
    await db.query({
      name: "take-record-start",
      text: `
        select ${COLUMNS}
        from record_start r
        where id = $1 and done_at is null and due_at <= $2 and not ${PAUSED} and id = (${HEAD})
        for update of r skip locked
      `,
      values: [id, now],
    })
  ).rows[0] ?? null;

/**
 * A request was made of it, or it is said why there is none. What the record held stands in its history.
 * @returns the next of the same process and record
 */
export const recordStartDone = async (
  db: Db,
  id: string,
  came: { at: string; request: string | null; why: string | null },
): Promise<string | null> =>
  (
    await db.query({
      name: "record-start-done",
      text: `
        with
          r as (
            update record_start
            set done_at = $2, request_id = $3, why = $4, before = null, after = null
            where id = $1
            returning id, register_key, record_id, process_key
          )
        select
          (
            select o.id::text
            from record_start o
            where
              o.done_at is null
              and o.register_key = r.register_key
              and o.record_id = r.record_id
              and o.process_key = r.process_key
              and o.id > r.id
            order by o.id
            limit 1
          ) as next
        from r
      `,
      values: [id, came.at, came.request, came.why],
    })
  ).rows[0]?.next ?? null;

export interface StartPauseRow {
  process_key: string;
  start_id: string;
  keeps: boolean;
}
export const allStartPauses = async (db: Db): Promise<StartPauseRow[]> =>
  (await db.query("select process_key, start_id, keeps from start_pause")).rows;

export const pauseStart = (
  db: Db,
  p: { process: string; start: string; keeps: boolean; at: string; by: string },
) =>
  db.query(
    `
      insert into start_pause (process_key, start_id, keeps, since, by_person)
      values ($1, $2, $3, $4, $5)
      on conflict (process_key, start_id) do update
      set keeps = excluded.keeps
    `,
    [p.process, p.start, p.keeps, p.at, p.by],
  );
export const resumeStart = async (db: Db, process: string, start: string): Promise<void> => {
  await db.query("delete from start_pause where process_key = $1 and start_id = $2", [process, start]);
  await queueRecordStarts(db);
};

/** How the starts by records of a process have fared: how many requests, how many wait, and what kept the newest from it. */
export const recordStartsOf = async (
  db: Db,
  process: string,
  most: number,
): Promise<
  {
    start_id: string;
    made: number;
    waiting: number;
    kept: { at: number; why: string; register: string; record: string }[];
  }[]
> =>
  (
    await db.query(
      `
        select
          s.start_id,
          count(*) filter (where request_id is not null)::int as made,
          count(*) filter (where done_at is null)::int as waiting,
          coalesce(
            (
              select json_agg(k order by k.id desc)
              from
                (
                  select k.id, extract(epoch from k.at) * 1000 as at, k.why, k.register_key as register, k.record_id::text as record
                  from record_start k
                  where k.process_key = $1 and k.start_id = s.start_id and k.why is not null
                  order by k.id desc
                  limit $2
                ) k
            ),
            '[]'
          ) as kept
        from record_start s
        where s.process_key = $1
        group by s.start_id
      `,
      [process, most],
    )
  ).rows;

/** The last day whose dates were looked at, by start ("process/start"). */
export const startMarks = async (db: Db): Promise<Map<string, string>> =>
  new Map(
    (await db.query("select process_key, start_id, looked from start_mark")).rows.map((r) => [
      `${r.process_key}/${r.start_id}`,
      r.looked,
    ]),
  );

/** The same of one start, held until the transaction ends; `first` where nobody has looked yet. */
export const holdMark = async (db: Db, process: string, start: string, first: string): Promise<string> => {
  await db.query(
    "insert into start_mark (process_key, start_id, looked) values ($1, $2, $3) on conflict do nothing",
    [process, start, first],
  );
  return (
    await db.query("select looked from start_mark where process_key = $1 and start_id = $2 for update", [
      process,
      start,
    ])
  ).rows[0].looked;
};
export const setMark = (db: Db, process: string, start: string, looked: string) =>
  db.query("update start_mark set looked = $3 where process_key = $1 and start_id = $2", [
    process,
    start,
    looked,
  ]);
