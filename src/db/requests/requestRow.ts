import { LETTERS, type LetterRow } from "../messages";
import { heldBy, joinParts, type RequestEvent, type RequestState } from "@/core/engine";
import { START } from "@/core/route";
import { readPart, readState } from "@/formats";
import type { Db } from "../pool";
import type { Cause } from "../recordStarts";
import { RELATIVES, type Relative } from "../requestChildren";
import { ALL_EVENTS, readTrail, type StoredEvent, type Means } from "./requestEvents";

/** All parts of a request that is kept in parts; null for others. */
const ALL_PARTS = `
  case
    when r.in_parts then (
      select coalesce(json_agg(p.body), '[]')
      from request_part p
      where p.request_id = r.id
    )
  end as parts
`;
/** Those alone in which $2 stands, with those around and beside. */
const AROUND = `
  with recursive
    around as (
      select p.id, p.parent
      from request_part p
      where p.request_id = r.id and not p.past and p.holds @> array[$2::text]
      union
      select p.id, p.parent
      from around a join request_part p on p.request_id = r.id and p.id = a.parent
    ),
    wanted as (
      select p.body
      from around a join request_part p on p.request_id = r.id and p.id = a.id
      where not p.beside
      union all
      select p.body
      from request_part p
      where
        p.request_id = r.id
        and p.beside
        and (p.parent is null or p.parent in (select id from around))
    )
  select coalesce(json_agg(w.body), '[]')
  from wanted w
`;

type Read<R> = R & { parts?: readonly unknown[] | null };
/**
 * A row with its state in the newest format, put together.
 * @param all whether all its parts were read
 */
function current<R extends RequestRow>(row: Read<R> | undefined, all = true): R | null {
  if (!row) return null;
  const { parts, ...rest } = row;
  const state = readState(row.state);
  return {
    ...(rest as unknown as R),
    state: row.in_parts ? joinParts(state, (parts ?? []).map(readPart), all) : state,
  };
}

export interface RequestRow {
  id: string;
  number: string;
  process_key: string;
  release_id: string;
  /** Whose own it is; null where no account asked. Who asked stands in the state. */
  requester_id: string | null;
  title: string;
  status: string;
  result: string | null;
  result_tone: string | null;
  state: RequestState;
  version: number;
  /** Whether it is large, and kept in parts. */
  in_parts: boolean;
  started_at: number;
  ended_at: number | null;
  /** By what it was started, oldest first; nothing where somebody asked. */
  chain: Cause[];
}

export async function requestByNumber(db: Db, number: string): Promise<RequestRow | null> {
  const { rows } = await db.query({
    name: "request-by-number",
    text: `select r.*, ${ALL_PARTS} from request r where r.number = $1`,
    values: [number],
  });
  return current(rows[0]);
}
export interface RequestForCommand extends RequestRow {
  directory_version: string;
  clock_offset: string;
}
/**
 * Reads a request for a command; locked, one command at a time. What every command needs besides comes along,
 * because a round trip costs more than reading it.
 * @param about the token, task, timer or effect it is about: of a large request only the parts are read that belong to
 *   it, and the state says so (`partial`). Null for all of it.
 */
export async function requestForCommand(
  db: Db,
  by: { id: string } | { number: string },
  lock: boolean,
  about: string | null = null,
): Promise<RequestForCommand | null> {
  const column = "id" in by ? "id" : "number";
  // One statement sees one moment. One that waits for a lock sees the row as it is then, and all else as it was when it
  // began to wait: parts are read after that.
  const some = `case when r.in_parts then (${AROUND}) end as parts`;
  const parts = about === null ? ALL_PARTS : some;
  const { rows } = await db.query({
    name: `${lock ? "lock" : "read"}-request-by-${column}${!lock && about !== null ? "-in-part" : ""}`,
    text: `
          select
            r.*,
            ${lock ? "" : `${parts},`}
            (
              select value #>> '{}'
              from setting
              where key = 'directory_version'
            ) as directory_version,
            (
              select value #>> '{}'
              from setting
              where key = 'clock_offset'
            ) as clock_offset
          from request r
          where r.${column} = $1 ${lock ? " for update of r" : ""}
        `,
    values: ["id" in by ? by.id : by.number, ...(!lock && about !== null ? [about] : [])],
  });
  const row: Read<RequestForCommand> | undefined = rows[0];
  if (row?.in_parts && lock) row.parts = await partsOf(db, row.id, about);
  const read = current(row, about === null);
  // What is over, or was never there: whoever says so needs to know all of it.
  const missed = read?.in_parts && about !== null && !heldBy(read.state).includes(about);
  return missed ? requestForCommand(db, by, lock) : read;
}

async function partsOf(db: Db, id: string, about: string | null): Promise<readonly unknown[]> {
  const { rows } = await db.query({
    name: `parts-of-request${about === null ? "" : "-around"}`,
    text:
      about === null
        ? "select coalesce(json_agg(p.body), '[]') as parts from request_part p where p.request_id = $1"
        : `select (${AROUND}) as parts from (select $1::bigint as id) r`,
    values: about === null ? [id] : [id, about],
  });
  return rows[0]!.parts;
}

/** A request, what somebody is to it, and what a page of it needs besides: in one round trip. */
export interface SeenRow extends RequestRow {
  release_version: string;
  directory_version: string;
  clock_offset: number;
  /** Of its process. */
  owners: string[];
  /** The steps that somebody took part in, the start where they made changes: they may look at it afterwards. */
  steps: string[];
  /** What has started it, and what it has started; none where the trail was not asked for. */
  relatives: Relative[];
  /** What happened, and by the number of an event the key it was done by; empty where it was not asked for. */
  events: RequestEvent[];
  keys: ReadonlyMap<number, string>;
  means: ReadonlyMap<number, Means>;
  /** What was written of it; empty where the trail was not asked for. */
  letters: LetterRow[];
}
/** @param trail whether its events are wanted */
export async function requestSeen(
  db: Db,
  by: { id: string } | { number: string },
  person: string,
  trail: boolean,
): Promise<SeenRow | null> {
  const column = "id" in by ? "id" : "number";
  const { rows } = await db.query({
    name: `see-${trail ? "all-of-" : ""}request-by-${column}`,
    text: `
      select
        r.*,
        l.version as release_version,
        (
          select value #>> '{}'
          from setting
          where key = 'directory_version'
        ) as directory_version,
        (
          select coalesce(value #>> '{}', '0')::float8
          from setting
          where key = 'clock_offset'
        ) as clock_offset,
        array(
          select o.person_id
          from process_owner o
          where o.process_key = r.process_key
          order by 1
        ) as owners,
        array(
          -- Whoever makes changes, or is asked as who made the request, has the form as it is at the start, and not what those
          -- see who asked for that.
          select distinct case when t.purpose in ('changes', 'question') then regexp_replace(t.step_id, '[^~]*$', '${START}') else t.step_id end
          from task_candidate c join task t on t.request_id = c.request_id and t.id = c.task_id
          where c.request_id = r.id and c.person_id = $2
          union
          -- So does whoever was mentioned.
          select '${START}' from request_mention where request_id = r.id and person_id = $2
        ) as steps,
        ${trail ? ALL_EVENTS : "null"} as events,
        ${trail ? LETTERS : "'[]'::json"} as letters,
        ${trail ? `(${RELATIVES})` : "'[]'::json"} as relatives,
        ${ALL_PARTS}
      from request r join process_release l on l.id = r.release_id
      where r.${column} = $1
    `,
    values: ["id" in by ? by.id : by.number, person],
  });
  const row = current(rows[0]);
  return row && { ...row, ...readTrail((row.events ?? []) as unknown as StoredEvent[]) };
}

/** What is kept of the requests after one, by their ids, for going through all of them. */
export const statesAfter = async (
  db: Db,
  after: string,
  limit: number,
): Promise<{ id: string; number: string; state: RequestState }[]> =>
  (
    await db.query(
      `
        select r.id, r.number, r.state, r.in_parts, ${ALL_PARTS}
        from request r
        where r.id > $1
        order by r.id
        limit $2
      `,
      [after, limit],
    )
  ).rows.map((r) => current(r)!);

export async function requestByStartKey(
  db: Db,
  key: string,
): Promise<{ number: string; hash: Buffer | null } | null> {
  const { rows } = await db.query("select number, start_hash as hash from request where start_key = $1", [
    key,
  ]);
  return rows[0] ?? null;
}

/** People who have or had a task of a request: they may look at it afterwards. */
export const tookPart = async (db: Db, request: string, person: string): Promise<string[]> =>
  (
    await db.query(
      `
        select distinct t.step_id
        from task t join task_candidate c on c.request_id = t.request_id and c.task_id = t.id
        where t.request_id = $1 and c.person_id = $2
        union
        select '${START}' from request_mention where request_id = $1 and person_id = $2
      `,
      [request, person],
    )
  ).rows.map((r) => r.step_id);

export const isOwner = async (db: Db, process: string, person: string): Promise<boolean> =>
  ((
    await db.query("select 1 from process_owner where process_key = $1 and person_id = $2", [process, person])
  ).rowCount ?? 0) > 0;
