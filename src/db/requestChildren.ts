import type { RequestStatus } from "@/core/engine";
import type { Tone } from "@/core/route";
import type { Db } from "./pool";

/** A request that a step of another has started. */
export interface ChildRow {
  parent_id: string;
  /** The id of the effect that asked for it. */
  effect: string;
  child_id: string;
  number: string;
  waits: boolean;
  ends_with: boolean;
  ended: boolean;
}

const ROWS = `
  select
    c.parent_id,
    c.effect,
    c.child_id,
    r.number,
    c.waits,
    c.ends_with,
    r.ended_at is not null as ended
  from request_child c join request r on r.id = c.child_id
`;

/** What an effect has started; null for nothing yet. */
export const childOf = async (db: Db, parent: string, effect: string): Promise<ChildRow | null> =>
  (await db.query(`${ROWS} where c.parent_id = $1 and c.effect = $2`, [parent, effect])).rows[0] ?? null;

/** How a request was started; null where no other has started it. */
export const startedAs = async (db: Db, child: string): Promise<ChildRow | null> =>
  (await db.query(`${ROWS} where c.child_id = $1`, [child])).rows[0] ?? null;

/** Those a request has started that have not ended and were to end with it. */
export const childrenEndingWith = async (db: Db, parent: string): Promise<ChildRow[]> =>
  (
    await db.query(
      `${ROWS} where c.parent_id = $1 and c.ends_with and r.ended_at is null order by c.child_id`,
      [parent],
    )
  ).rows;

/** Where a request stands in a line of requests that start each other. */
export interface Lineage {
  root: string;
  /** Requests before it in the line. */
  depth: number;
  /** All that the first of the line has led to; counted up to `most` and one. */
  all: number;
}
export async function lineageOf(db: Db, request: string, most: number): Promise<Lineage> {
  const { rows } = await db.query(
    `
      with
        l as (
          select
            coalesce((select root_id from request_child where child_id = $1), $1::bigint) as root,
            coalesce((select depth from request_child where child_id = $1), 0) as depth
        )
      select
        l.root::text,
        l.depth,
        (
          select count(*)::int
          from
            (
              select 1
              from request_child c
              where c.root_id = l.root
              limit $2
            ) x
        ) as all
      from l
    `,
    [request, most + 1],
  );
  return rows[0]!;
}

/** Keeps that a request was started by an effect of another. */
export const insertChild = (
  db: Db,
  c: Pick<ChildRow, "parent_id" | "effect" | "child_id" | "waits" | "ends_with"> &
    Pick<Lineage, "root" | "depth">,
) =>
  db.query(
    `
      insert into request_child (parent_id, effect, child_id, waits, ends_with, root_id, depth)
      values ($1, $2, $3, $4, $5, $6, $7)
    `,
    [c.parent_id, c.effect, c.child_id, c.waits, c.ends_with, c.root, c.depth],
  );

/** A request that is related to another by one having started the other. */
export interface Relative {
  /** Whether it started the one asked about. */
  started: boolean;
  waits: boolean;
  number: string;
  title: string;
  process: string;
  status: RequestStatus;
  result: string | null;
  tone: Tone | null;
  requester: string | null;
  /** Whether the reader took part in it, or owns its process. */
  took_part: boolean;
  owner: boolean;
}

/** How many of those it started are told of a request. */
export const MOST_RELATIVES = 50;

/** What has started request `r`, then what it has started, the newest first; for the reader $2. */
export const RELATIVES = `
  select coalesce(json_agg(y order by y.started desc, y.id desc), '[]')
  from
    (
      select
        x.started,
        x.waits,
        o.id,
        o.number,
        o.title,
        l.definition ->> 'name' as process,
        o.status,
        o.result,
        o.result_tone as tone,
        o.requester_id as requester,
        exists (
          select 1
          from task_candidate c
          where c.request_id = o.id and c.person_id = $2
          union all
          select 1
          from request_mention m
          where m.request_id = o.id and m.person_id = $2
        ) as took_part,
        exists (
          select 1
          from process_owner w
          where w.process_key = o.process_key and w.person_id = $2
        ) as owner
      from
        (
          select true as started, parent_id as other, waits
          from request_child
          where child_id = r.id
          union all
          (
            select false, child_id, waits
            from request_child
            where parent_id = r.id
            order by child_id desc
            limit ${MOST_RELATIVES}
          )
        ) x
        join request o on o.id = x.other
        join process_release l on l.id = o.release_id
    ) y
`;
